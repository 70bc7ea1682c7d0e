/**
 * Everything a person can do to a project, an act a file, all of one shape: a document and an intent become a change.
 * Menus, commands, the HTTP API and the command line are made from this list. Acts know no screen.
 */
export type { Act, ActGroup, ActSettings, AnyAct, Intent, Outcome, ShownEdition } from './act';
export * as acts from './all';
export { nameOfChosen } from './doing/chosen';
export { lacking, perform } from './doing/perform';
export { ACTS, type ActName, actNamed } from './doing/registry';
export { type ActRequest, actRequest, jobsOfRequest, performRequest, withOutlinesOf } from './doing/request';
export { changedEdition, seenArtwork, shapedAsSeen } from './doing/seen';
export { startingSpecs } from './outputs/starting-specs';
