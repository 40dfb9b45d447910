import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { Tick } from '../../ui/Tick.tsx';
import type { Section } from './sections.tsx';

const sharingOf = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const [code = '', ...words] = line.split(/\s+/);
      return { code: code.slice(0, 12), text: words.join(' ').slice(0, 120) };
    });

/** Stored names, what stands on renditions and prints, outside origin, sharing codes, keeping. */
export const KeepingSection = ({ rule, edit }: Section) => (
  <div className="grid max-w-3xl grid-cols-2 gap-x-4 gap-y-3.5">
    <div className="col-span-2">
      <Tick checked={rule.followsNamingRule} onChange={(followsNamingRule) => edit({ followsNamingRule })}>
        Stored file names follow the naming rule, also when title or number change
      </Tick>
    </div>
    <TextField
      label="Header of renditions and prints"
      optional
      maxLength={200}
      value={rule.head}
      onChange={(event) => edit({ head: event.target.value })}
      hint="With tokens as in file names: {number} rev. {revision}"
    />
    <TextField
      label="Footer of renditions and prints"
      optional
      maxLength={200}
      value={rule.foot}
      onChange={(event) => edit({ foot: event.target.value })}
    />
    <div className="col-span-2">
      <Tick checked={rule.cover} onChange={(cover) => edit({ cover })}>
        Cover page on renditions: title block, signatures, revisions
      </Tick>
    </div>
    <div className="col-span-2 grid grid-cols-[minmax(0,1fr)_180px] items-end gap-3 border-t border-line pt-3">
      <Tick checked={rule.origin !== null} onChange={(on) => edit({ origin: on ? { checkMonths: 12 } : null })}>
        External documents: source and edition are recorded and checked regularly
      </Tick>
      {rule.origin && (
        <TextField
          label="Months between source checks"
          type="number"
          min={1}
          max={240}
          value={String(rule.origin.checkMonths)}
          onChange={(event) => edit({ origin: { checkMonths: Math.max(1, Math.round(Number(event.target.value))) } })}
        />
      )}
    </div>
    <div className="col-span-2">
      <TextArea
        key={rule.sharing.length}
        label="Status codes for sharing"
        optional
        rows={3}
        defaultValue={rule.sharing.map(({ code, text }) => `${code} ${text}`.trim()).join('\n')}
        onBlur={(event) => edit({ sharing: sharingOf(event.target.value) })}
        hint="One per line, code first: S1 suitable for coordination"
      />
    </div>
    <Select
      label="Retention"
      value={rule.keeping?.from ?? ''}
      onChange={(event) =>
        edit({
          keeping: event.target.value
            ? { years: rule.keeping?.years ?? 10, from: event.target.value as 'superseded' | 'withdrawn' }
            : null,
        })
      }
    >
      <option value="">permanent</option>
      <option value="superseded">years after it was superseded</option>
      <option value="withdrawn">years after it was withdrawn</option>
    </Select>
    {rule.keeping && (
      <TextField
        label="Years"
        type="number"
        min={1}
        max={200}
        value={String(rule.keeping.years)}
        onChange={(event) =>
          edit({
            keeping: {
              from: rule.keeping?.from ?? 'superseded',
              years: Math.max(1, Math.round(Number(event.target.value))),
            },
          })
        }
      />
    )}
  </div>
);
