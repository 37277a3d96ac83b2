import type { Operation, OperationRow } from '@/core/listing/operations';

/** What most operations are like: they need nothing, can be undone wholly, tell nobody, and cost one request. */
const usual = { needs: [], undo: { how: 'wholly' }, tells: 'nobody', requests: 1 } as const;
/** Fields that an operation can change, where a kind does not say. */
const fieldsOf: Partial<Record<Operation, Pick<OperationRow, 'fields' | 'leadsTo'>>> = {
  publish: { fields: 'state', leadsTo: ['public'] },
  unpublish: { fields: 'state', leadsTo: ['closed', 'draft'] },
  cancel: { fields: 'state', leadsTo: ['cancelled'] },
  remove: { fields: 'state' },
};

/**
 * A row of a kind's operations. `does`: what it does, as one sentence for the person who picks it; `part`: in what it
 * is not as most are. `operation('amend', 'Changes it.')`
 */
export function operation(op: Operation, does: string, part: Partial<OperationRow> = {}): OperationRow {
  return { op, fields: 'all', ...fieldsOf[op], ...usual, does, ...part };
}

/** Deleting there, which nobody can take back. `does`: what goes with it. */
export function deleting(does: string): OperationRow {
  return operation('remove', does, { needs: ['code'], undo: { how: 'never' }, requests: 3 });
}
