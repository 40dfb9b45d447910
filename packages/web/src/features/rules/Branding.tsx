import type { Upload } from '@kanonos/contract';
import { CONFIDENTIALITIES, FORBIDDEN, REVISION_STATES } from '@kanonos/core';
import { useState } from 'react';
import { TextField } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { OrganisationDialog } from './OrganisationDialog.tsx';
import type { Organisation } from './organisationBody.ts';
import { wording } from './wording.ts';

const FORBIDS = {
  download: wording.noDownloads,
  print: wording.noPrinting,
  'share outside': wording.notOutside,
} as const;

/** Colour and logo of mails, words for the states, what confidentiality forbids, stored names. */
export const Branding = ({ organisation: now, close }: { organisation: Organisation; close: () => void }) => {
  const form = useDraft(now, ({ colour, stateWords, confidentiality, followsNamingRule }) => ({
    colour,
    stateWords,
    confidentiality,
    followsNamingRule,
  }));
  const { base: organisation, draft, edit } = form;
  const { stateWords: words, confidentiality: levels } = draft;
  const [logo, setLogo] = useState<Upload | null>(null);
  const [dropLogo, setDropLogo] = useState(false);
  return (
    <OrganisationDialog
      title={wording.editBrandingAndLabels}
      form={form}
      change={{ ...draft, ...(logo ? { logoUploadId: logo.id } : dropLogo ? { logoUploadId: null } : {}) }}
      close={close}
    >
      <div className="flex max-h-[58vh] flex-col gap-4 overflow-y-auto pr-1">
        <div className="grid grid-cols-[150px_minmax(0,1fr)] gap-3">
          <TextField
            label={wording.accentColourOfMails}
            placeholder="none"
            hint={wording.suchAs0b5364}
            className="inp num"
            value={draft.colour}
            onChange={(value) => edit({ colour: value.toLowerCase() })}
          />
          <div>
            <FileDrop
              label={wording.logoForMailsAndCoverPages}
              value={logo}
              onChange={setLogo}
              about={wording.pngOrJpeg}
            />
            {organisation.logo && !logo && (
              <Tick checked={dropLogo} onChange={setDropLogo}>
                {wording.removeCurrentLogo}
              </Tick>
            )}
          </div>
        </div>
        <fieldset>
          <legend className="cap mb-1">{wording.labelsOfStates}</legend>
          <div className="grid grid-cols-3 max-md:grid-cols-1 gap-x-3 gap-y-1.5">
            {REVISION_STATES.map((state) => (
              <label key={state} className="grid grid-cols-[86px_minmax(0,1fr)] items-center gap-1.5 text-[12px]">
                <span className="text-ink-2">{state}</span>
                <input
                  className="inp !min-h-[26px]"
                  maxLength={30}
                  value={words[state] ?? ''}
                  onChange={(event) => edit({ stateWords: { ...words, [state]: event.target.value } })}
                />
              </label>
            ))}
          </div>
        </fieldset>
        <fieldset>
          <legend className="cap mb-1">{wording.restrictionsByConfidentiality}</legend>
          <div className="grid grid-cols-[110px_repeat(3,minmax(0,1fr))] gap-x-3 gap-y-2">
            {CONFIDENTIALITIES.flatMap((level) => [
              <span key={level} className="py-[3px] font-semibold">
                {level}
              </span>,
              ...FORBIDDEN.map((one) => (
                <Tick
                  key={`${level} ${one}`}
                  checked={levels[level].includes(one)}
                  onChange={(on) =>
                    edit({
                      confidentiality: {
                        ...levels,
                        [level]: on ? [...levels[level], one] : levels[level].filter((other) => other !== one),
                      },
                    })
                  }
                >
                  {FORBIDS[one]}
                </Tick>
              )),
            ])}
          </div>
        </fieldset>
        <Tick checked={draft.followsNamingRule} onChange={(on) => edit({ followsNamingRule: on })}>
          {wording.nameStoredFilesByRuleIn}
        </Tick>
      </div>
    </OrganisationDialog>
  );
};
