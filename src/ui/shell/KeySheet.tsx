import { Modal } from '@mantine/core';
import { PennantLegend } from '@/ui/pennant/PennantLegend';
import classes from './Shell.module.css';

const keys = [
  ['/', 'find an event'],
  ['N', 'new record'],
  ['G', 'season'],
  ['D', 'what is to send'],
  ['B', 'read-back'],
  ['Ctrl S', 'save the record'],
  ['?', 'this sheet'],
] as const;

/** What each pennant means, and which key does what. */
export function KeySheet({ onClose }: { onClose: () => void }) {
  return (
    <Modal opened onClose={onClose} title="Pennants and keys" size="lg" classNames={{ title: classes.sheetTitle }}>
      <PennantLegend />
      <dl className={classes.keys}>
        {keys.map(([key, words]) => (
          <div key={key}>
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
