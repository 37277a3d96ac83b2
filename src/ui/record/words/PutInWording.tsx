import { Select } from '@mantine/core';
import type { Wording } from '@/core/record/directory';
import { useOpen } from '@/ui/may/Fields';

interface PutInWordingProps {
  label: string;
  wordings: readonly Wording[];
  onPut: (wording: Wording) => void;
}

/** Puts one of the house's wordings in, where the words may be changed. */
export function PutInWording({ label, wordings, onPut }: PutInWordingProps) {
  if (!useOpen() || wordings.length === 0) return null;
  return (
    <Select
      w={190}
      aria-label={label}
      placeholder="put in a wording"
      data={wordings.map(({ id, name }) => ({ value: id, label: name }))}
      value={null}
      onChange={(id) => {
        const chosen = wordings.find((wording) => wording.id === id);
        if (chosen) onPut(chosen);
      }}
    />
  );
}
