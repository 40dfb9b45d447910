// What other features may use of this one.
export { countUsage, listUsage, openedHashes, recentlyOpened, recordUsage, sealUsage } from './service.ts';
