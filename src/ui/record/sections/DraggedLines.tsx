import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  arrayMove,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ButtonHTMLAttributes, CSSProperties, ReactNode } from 'react';
import type { RecordDraft } from '@/core/record/draft';

type LineUp = RecordDraft['lineUp'];

/** What moves one name: to be put on its row and on its handle. */
export interface DragProps {
  place: (row: HTMLElement | null) => void;
  style: CSSProperties;
  handle: ButtonHTMLAttributes<HTMLButtonElement>;
}

export interface LinesProps {
  lineUp: LineUp;
  onChange: (lineUp: LineUp) => void;
  /** One name, as it is drawn. */
  line: (entry: LineUp[number], index: number, drag: DragProps | null) => ReactNode;
}

/** Names that are moved by dragging the handle, or by keyboard (Space, arrows, Space). */
export function DraggedLines({ lineUp, onChange, line }: LinesProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const [from, to] = [
      lineUp.findIndex((act) => act.id === active.id),
      lineUp.findIndex((act) => act.id === over?.id),
    ];
    if (from >= 0 && to >= 0 && from !== to) onChange(arrayMove(lineUp, from, to));
  };
  return (
    <DndContext id="billing" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={lineUp.map((act) => act.id)} strategy={verticalListSortingStrategy}>
        {lineUp.map((act, index) => (
          <DraggedLine key={act.id} id={act.id} line={(drag) => line(act, index, drag)} />
        ))}
      </SortableContext>
    </DndContext>
  );
}

function DraggedLine({ id, line }: { id: string; line: (drag: DragProps) => ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return line({
    place: setNodeRef,
    style: { transform: CSS.Translate.toString(transform), transition },
    handle: { ...attributes, ...listeners },
  });
}
