import { Link } from 'react-router';
import { wording } from './wording.ts';

const WAYS = [
  { to: '/new', title: wording.register, about: wording.registerAbout },
  { to: '/rules/templates', title: wording.templates, about: wording.templatesAbout },
  { to: '/imports', title: wording.importLegacy, about: wording.importLegacyAbout },
] as const;

/** Three ways to the first documents. */
export const DocumentsStep = () => (
  <ul className="grid max-w-3xl grid-cols-3 gap-3 max-md:grid-cols-1">
    {WAYS.map(({ to, title, about }) => (
      <li key={to} className="pane flex flex-col gap-1.5 p-3">
        <Link to={to} className="font-semibold text-petrol underline">
          {title}
        </Link>
        <span className="text-ink-2">{about}</span>
      </li>
    ))}
  </ul>
);
