// What other features may use of this one.
export {
  countAudience,
  countReaders,
  deriveFor,
  endReadings,
  ensureRequirement,
  HAS_SIGNATURE,
  hasReaders,
  listDutiful,
  overtakeReadings,
  readersAsked,
  voidReadings,
} from './duties.ts';
export { findMine, listMine, revisionRead } from './service.ts';
