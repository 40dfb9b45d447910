// What other features may use of this one.
export { recordUsage, sealUsage } from './service.ts';
export { countUsage, listUsage, openedHashes, recentlyOpened } from './store.ts';
