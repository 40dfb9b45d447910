// What other features may use of this one.
export { addressOfOrder, ORDERS_ADDRESS, openOrdersFor } from './service.ts';
