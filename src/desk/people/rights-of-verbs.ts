import type { Tx } from '@/store/database';
import { personById } from '@/store/persons';
import { recordsOfTours } from '@/store/records';
import { mayDo, mayNotWords, reaches, type Doer, type Right } from '@/core/people/doer';

/** Which right each verb of the desk asks: the one place that says so. */
export const rightsOfVerbs = {
  // Looking, at what one is let in for.
  moveClock: 'look',
  picturePreview: 'look',
  documentBytes: 'look',
  previewNotice: 'look',
  pulse: 'look',
  recordOfSlug: 'look',
  recordTitle: 'look',
  recordView: 'look',
  revisionChanges: 'look',
  manyUndoable: 'look',
  season: 'look',
  channelList: 'look',
  leaveToTell: 'look',
  findTown: 'look',
  // Oneself.
  changePassword: 'look',
  confirmSecondFactor: 'look',
  endSessionOf: 'look',
  ownView: 'look',
  startSecondFactor: 'look',
  // Looking at what belongs to the house as a whole.
  channelNames: 'browse',
  channelsView: 'browse',
  calendarFeeds: 'browse',
  handTasks: 'browse',
  handSheet: 'browse',
  directoryView: 'browse',
  dispatchView: 'browse',
  fileJob: 'browse',
  fileJobs: 'browse',
  filesReadIn: 'browse',
  offeredPictures: 'browse',
  pictureShelf: 'browse',
  readBackView: 'browse',
  untoldHolders: 'browse',
  recentDispatches: 'browse',
  seasonClashes: 'browse',
  sharedOfDate: 'browse',
  othersToSend: 'browse',
  toSend: 'browse',
  tourList: 'browse',
  tourName: 'browse',
  tourView: 'browse',
  whereUsed: 'browse',
  whyNothing: 'browse',
  wrongWords: 'browse',
  exportEvents: 'export',
  // Records, the directory, tours, pictures and files in.
  // The box office saves what it counts, and nothing else.
  saveRecord: ['correct', 'count'],
  changeView: ['correct', 'count'],
  addDocument: 'write',
  addPicture: 'write',
  bringBack: 'write',
  copyEvent: 'write',
  deleteRecord: 'write',
  emptyView: 'write',
  importEvents: 'write',
  importTourDates: 'write',
  keepDraft: 'write',
  keepFollowWords: 'write',
  keepOwn: 'write',
  keepPicture: 'write',
  keepQuestions: 'write',
  makeVenue: 'write',
  manyChoices: 'write',
  manyView: 'write',
  mergeDuplicates: 'write',
  postToHolders: 'write',
  putAway: 'write',
  readAgain: 'write',
  readNow: 'write',
  receiveFile: 'write',
  restoreRevision: 'write',
  savePerson: 'write',
  saveMany: 'write',
  saveTour: 'write',
  saveVenue: 'write',
  stopJob: 'write',
  takeFileBack: 'write',
  tickSheet: 'write',
  tourFromRecord: 'write',
  tryPurchase: 'write',
  undoMany: 'write',
  verifyProfile: 'write',
  noteSales: 'count',
  // What goes out, and what is decided about what stands outside.
  cutTie: 'send',
  decideErrand: 'send',
  sayHolders: 'send',
  keepTheirs: 'send',
  letItGo: 'send',
  makeDispatch: 'send',
  sayHandDone: 'send',
  sayHandFailed: 'send',
  saveAndSend: 'send',
  sendOursAgain: 'send',
  takeIntoRecord: 'send',
  takeTwinDown: 'send',
  // Channels and people.
  allowHost: 'keep',
  connectChannel: 'keep',
  makeCalendarFeed: 'keep',
  setHandRules: 'keep',
  renewFeedAddress: 'keep',
  disconnectChannel: 'keep',
  mapCategories: 'keep',
  reconnectChannel: 'keep',
  renameChannel: 'keep',
  sayAudience: 'keep',
  giveLeave: 'keep',
  leaveRead: 'keep',
  changeRole: 'keep',
  invite: 'keep',
  letInAnew: 'keep',
  peopleView: 'keep',
  takeInvitationBack: 'keep',
  takePersonOut: 'keep',
} as const satisfies Record<string, Right | readonly Right[]>;
export type Verb = keyof typeof rightsOfVerbs;

/** Thrown where a doer may not do what it asked for; the message is for the person, and says who may. */
export class NotAllowed extends Error {
  override name = 'NotAllowed';
}

/** Asks the right of a verb. Throws `NotAllowed` where the doer has it not. */
export function asks(doer: Doer, verb: Verb): void {
  const asked: Right | readonly Right[] = rightsOfVerbs[verb];
  const [first, ...others] = typeof asked === 'string' ? [asked] : asked;
  if (first !== undefined && !others.some((right) => mayDo(doer, right))) asksFor(doer, first);
}

/**
 * Asks anew, in the transaction that writes, where something was waited for since the verb began: whoever was taken out
 * meanwhile, or has another role, writes nothing any more. Throws `NotAllowed`.
 */
export function asksAgain(tx: Tx, doer: Doer, verb: Verb): void {
  if (doer.id === null) return;
  const person = personById(tx, doer.id);
  if (person?.leftAt !== null) throw new NotAllowed(`${doer.name} was taken out meanwhile. Nothing was kept.`);
  asks({ ...doer, role: person.role, only: person.only }, verb);
}

/** Asks a right by itself, where a verb does several things. Throws `NotAllowed`. */
export function asksFor(doer: Doer, right: Right): void {
  const words = mayNotWords(doer, right);
  if (words !== null) throw new NotAllowed(words);
}

/** The events that somebody is let in for; `null`: all of them. One query where tours are named. */
export function reachedIds(db: Tx, { only }: Doer): ReadonlySet<string> | null {
  return only === null ? null : new Set([...only.records, ...recordsOfTours(db, only.tours)]);
}

/** True where a doer is let in for this record. */
export function reachesRecord(doer: Doer, record: { id: string; content: { tourId: string | null } }): boolean {
  return reaches(doer, { id: record.id, tourId: record.content.tourId });
}

/** Asks whether a doer is let in for an event. Throws `NotAllowed`, in the words of one that is not there. */
export function asksReach(doer: Doer, record: { id: string; content: { tourId: string | null } } | null): void {
  if (record !== null && !reachesRecord(doer, record))
    throw new NotAllowed('There is no such event for you: you are let in for others alone.');
}
