import {
  Checkbox,
  CloseButton,
  createTheme,
  Input,
  InputWrapper,
  Modal,
  Radio,
  SegmentedControl,
  Combobox,
} from '@mantine/core';
import fields from './fields.module.css';

/** Mantine in our own face: faces, colours from the variables, underlined fields, no rounded corners. */
export const theme = createTheme({
  fontFamily: 'var(--face-text)',
  fontFamilyMonospace: 'var(--face-mono)',
  headings: { fontFamily: 'var(--face-display)' },
  defaultRadius: 0,
  cursorType: 'pointer',
  focusRing: 'auto',
  components: {
    Input: Input.extend({ classNames: { input: fields.input } }),
    InputWrapper: InputWrapper.extend({
      classNames: { label: fields.label, error: fields.error, description: fields.description },
      defaultProps: { inputWrapperOrder: ['label', 'input', 'description', 'error'] },
    }),
    CloseButton: CloseButton.extend({ defaultProps: { variant: 'transparent' } }),
    Checkbox: Checkbox.extend({ classNames: { input: fields.box, label: fields.boxLabel, icon: fields.boxIcon } }),
    Radio: Radio.extend({ classNames: { radio: fields.radio, label: fields.boxLabel, icon: fields.boxIcon } }),
    Modal: Modal.extend({ classNames: { content: fields.sheet, header: fields.sheet } }),
    SegmentedControl: SegmentedControl.extend({
      classNames: { root: fields.segments, label: fields.segment, indicator: fields.segmentMark },
    }),
    Combobox: Combobox.extend({ classNames: { dropdown: fields.dropdown, option: fields.option } }),
  },
});
