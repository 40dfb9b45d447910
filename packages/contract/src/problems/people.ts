import { at, type Problems } from './problem.ts';

/** Signing in, passwords and people. */
export const people = {
  // Signing in and passwords.
  not_signed_in: at(401, 'Please sign in.'),
  failed_work_gone: at(409, 'This work is no longer listed as failed. Reload the page.'),
  mail_not_failed: at(409, 'This mail has been sent or is being sent. There is nothing to send again.'),
  sign_in_wrong: at(
    401,
    'Check your sign-in name and password. If you have not set a password yet, use the link in the mail you received.',
  ),
  seeing_as_read_only: at(
    403,
    (p) => `You see the application as ${p.person}, read only. Stop seeing as ${p.person} to change something.`,
  ),
  seeing_as_oneself: at(409, 'Choose somebody else: you already see the application as yourself.'),
  sign_in_slowed: at(429, (p) => `Too many failed attempts. Wait ${p.seconds} seconds and try again.`),
  password_weak: at(422, (p) => `Choose a stronger password: ${p.reason}.`, 'New password'),
  password_wrong: at(403, 'Check your current password.', 'Current password'),
  link_invalid: at(410, 'This link was already used or has expired. Ask an administrator for a new one.'),
  organisation_right_missing: at(403, (p) => `You need the right to ${p.right}.`),

  // People.
  sign_in_name_taken: at(
    409,
    (p) =>
      `${p.name ? `The sign-in name ${p.name}` : 'This sign-in name'} was already given. Sign-in names are never given twice; choose another one.`,
    'Sign-in name',
  ),
  sign_in_name_invalid: at(
    422,
    'Use 2 to 64 lower-case letters, digits, dots or hyphens. The name cannot start with system.',
    'Sign-in name',
  ),
  mail_server_fixed: at(
    409,
    'The mail server is set by the environment of the server (SMTP_URL) and is changed there.',
  ),
  mail_server_refuses: at(422, (p) => `The mail server did not accept the connection (${p.reason}).`),
  mail_address_missing: at(409, 'Your account has no mail address. Enter one first.'),
  person_inactive: at(409, (p) => `${p.who} is deactivated.`),
  deputy_outside: at(
    422,
    (p) => `${p.who} belongs to an outside party. Choose a deputy from your own organisation.`,
    'Deputy',
  ),
  deputy_self: at(422, 'Choose somebody other than the absent person.', 'Deputy'),
  absence_days: at(422, 'The last day must not be before the first day.', 'Last day'),
  own_name: at(409, 'Your name is printed on your signatures, so another people administrator must change it.', 'Name'),
  own_account: at(409, 'You cannot do this to your own account.'),
  unit_unknown: at(422, (p) => `Choose an existing ${p.kind}.`),
  supervisor_circle: at(422, 'A person cannot be their own supervisor, directly or indirectly.', 'Supervisor'),
  membership_overlaps: at(
    409,
    'A person has one department and one supervisor on any day. End the present membership first.',
    'Memberships',
  ),
} satisfies Problems;
