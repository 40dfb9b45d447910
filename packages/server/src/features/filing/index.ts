// What other features may use of this one.
export { mayRegisterType, typesFor } from './choosing.ts';
export { blockPlan, folderByRule, makeFolder, pathByRule, toPlan } from './service.ts';
export { shortcutsOf } from './store.ts';
