// What other features may use of this one.
export { sendReminders } from './reminders.ts';
