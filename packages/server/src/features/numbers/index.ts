// What other features may use of this one.
export { endReservationIn, endRoundOut, reserveIn } from './service.ts';
