// What other features may use of this one.
export { askSigningService } from './service.ts';
