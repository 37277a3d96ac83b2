import {
  createTheme,
  type ExtendComponent,
  type FactoryPayload,
  type CheckboxFactory,
  type CloseButtonFactory,
  type InputFactory,
  type InputWrapperFactory,
  type ModalFactory,
  type RadioFactory,
  type SegmentedControlFactory,
  type ComboboxFactory,
  type SelectFactory,
} from '@mantine/core';
import fields from './fields.module.css';

/**
 * How a component looks, held to its own type; by type alone, so that a page brings only the components that it shows.
 */
const look = <F extends FactoryPayload>(component: ExtendComponent<F>) => component;

/** Mantine in our own face: faces, colours from the variables, underlined fields, no rounded corners. */
export const theme = createTheme({
  fontFamily: 'var(--face-text)',
  fontFamilyMonospace: 'var(--face-mono)',
  headings: { fontFamily: 'var(--face-display)' },
  defaultRadius: 0,
  cursorType: 'pointer',
  focusRing: 'auto',
  components: {
    Input: look<InputFactory>({ classNames: { input: fields.input } }),
    InputWrapper: look<InputWrapperFactory>({
      classNames: { label: fields.label, error: fields.error, description: fields.description },
      defaultProps: { inputWrapperOrder: ['label', 'input', 'description', 'error'] },
    }),
    CloseButton: look<CloseButtonFactory>({ defaultProps: { variant: 'transparent' } }),
    Checkbox: look<CheckboxFactory>({
      classNames: { input: fields.box, label: fields.boxLabel, icon: fields.boxIcon },
    }),
    Radio: look<RadioFactory>({ classNames: { radio: fields.radio, label: fields.boxLabel, icon: fields.boxIcon } }),
    Modal: look<ModalFactory>({ classNames: { content: fields.sheet, header: fields.sheet } }),
    SegmentedControl: look<SegmentedControlFactory>({
      classNames: { root: fields.segments, label: fields.segment, indicator: fields.segmentMark },
    }),
    // Whoever types in a picker sees the first that is left lit, and takes it by Enter.
    Select: look<SelectFactory>({ defaultProps: { selectFirstOptionOnChange: true } }),
    Combobox: look<ComboboxFactory>({ classNames: { dropdown: fields.dropdown, option: fields.option } }),
  },
});
