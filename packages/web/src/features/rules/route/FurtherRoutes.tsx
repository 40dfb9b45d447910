import type { FurtherRoute, Route, TypeRule, Unit } from '@kanonos/contract';
import { useState } from 'react';
import { Select, TextField } from '../../../ui/controls.tsx';
import { wording as rules } from '../wording.ts';
import { ConditionEditor } from './ConditionEditor.tsx';
import { RouteEditor } from './RouteEditor.tsx';
import { conditionWords } from './stepWords.ts';
import { wording } from './wording.ts';

type Taken = FurtherRoute['taken'];
const NEW: FurtherRoute = { route: { name: '', steps: [] }, taken: { by: 'choice', mayChoose: 'author' } };

/** When a further route is taken, in words. */
const takenWords = ({ route, taken }: FurtherRoute, rule: TypeRule): string => {
  if (route.leadsTo === 'nothing') return wording.forAdHocRounds;
  if (taken.by === 'condition') return wording.takenWhere(conditionWords(taken.when, rule.fields));
  return wording.chosenBy[taken.mayChoose];
};

/** Routes beside that of the type and of its change kinds: by condition, chosen on submitting, or for rounds that lead to no release. */
export const FurtherRoutes = ({
  rule,
  onChange,
  ...named
}: {
  rule: TypeRule;
  onChange: (routes: FurtherRoute[]) => void;
  nameOf: (id: string) => string;
  units: readonly Unit[];
  typeId: string | undefined;
}) => {
  const [open, setOpen] = useState<number | null>(null);
  const all = rule.furtherRoutes;
  const change = (at: number, part: Partial<FurtherRoute>) =>
    onChange(all.map((one, i) => (i === at ? { ...one, ...part } : one)));
  return (
    <section className="mt-4 border-t border-line pt-3">
      <h3 className="cap mb-1">{wording.furtherRoutes}</h3>
      <p className="mb-2 text-[12px] text-ink-2">{wording.furtherRoutesAbout}</p>
      <ul className="flex flex-col gap-2">
        {all.map((one, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a route is identified by its place
          <li key={at} className="border border-line">
            <div className="flex flex-wrap items-center gap-2 bg-film-2 px-3 py-1.5">
              <b className="font-semibold">{one.route.name || wording.unnamedRoute}</b>
              <span className="text-ink-2">{takenWords(one, rule)}</span>
              <span className="ml-auto flex gap-1.5">
                <button
                  type="button"
                  className="btn !h-6"
                  aria-expanded={open === at}
                  onClick={() => setOpen(open === at ? null : at)}
                >
                  {open === at ? wording.closeRoute : wording.editRoute}
                </button>
                <button
                  type="button"
                  className="btn !h-6"
                  aria-label={wording.removeRoute(one.route.name)}
                  onClick={() => {
                    onChange(all.filter((_, i) => i !== at));
                    setOpen(null);
                  }}
                >
                  {rules.remove}
                </button>
              </span>
            </div>
            {open === at && (
              <div className="flex flex-col gap-3 px-3 py-2">
                <About further={one} rule={rule} units={named.units} onChange={(part) => change(at, part)} />
                <RouteEditor route={one.route} rule={rule} onChange={(route) => change(at, { route })} {...named} />
              </div>
            )}
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn mt-2"
        onClick={() => {
          onChange([...all, NEW]);
          setOpen(all.length);
        }}
      >
        {wording.addRoute}
      </button>
    </section>
  );
};

const HOW = ['author', 'controller', 'condition', 'nothing'] as const;
type How = (typeof HOW)[number];

const howOf = ({ route, taken }: FurtherRoute): How =>
  route.leadsTo === 'nothing' ? 'nothing' : taken.by === 'condition' ? 'condition' : taken.mayChoose;

const withHow = ({ route: { leadsTo: _, ...route }, taken }: FurtherRoute, how: How): FurtherRoute => {
  const next: Record<How, { route: Route; taken: Taken }> = {
    author: { route, taken: { by: 'choice', mayChoose: 'author' } },
    controller: { route, taken: { by: 'choice', mayChoose: 'controller' } },
    condition: {
      route,
      taken: { by: 'condition', when: taken.by === 'condition' ? taken.when : 'change:major' },
    },
    nothing: { route: { ...route, leadsTo: 'nothing' }, taken: { by: 'choice', mayChoose: 'author' } },
  };
  return next[how];
};

/** How a further route is called, and when it is taken. */
const About = ({
  further,
  rule,
  units,
  onChange,
}: {
  further: FurtherRoute;
  rule: TypeRule;
  units: readonly Unit[];
  onChange: (part: Partial<FurtherRoute>) => void;
}) => {
  const { route, taken } = further;
  return (
    <>
      <div className="grid grid-cols-2 gap-2.5 max-md:grid-cols-1">
        <TextField
          label={wording.nameOfRoute}
          required
          maxLength={80}
          value={route.name}
          onChange={(name) => onChange({ route: { ...route, name } })}
        />
        <Select
          label={wording.whenTaken}
          value={howOf(further)}
          options={HOW.map((value) => ({ value, text: wording.how[value] }))}
          onChange={(how) => onChange(withHow(further, how as How))}
        />
      </div>
      {taken.by === 'condition' && howOf(further) === 'condition' && (
        <ConditionEditor
          when={taken.when}
          fields={rule.fields}
          units={units}
          onChange={(when) => onChange({ taken: { by: 'condition', when: when ?? '' } })}
        />
      )}
    </>
  );
};
