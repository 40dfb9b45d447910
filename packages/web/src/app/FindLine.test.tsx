import { api } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { at, renderPage, sent } from '../testing/renderPage.tsx';
import { FindLinePlace } from './FindLinePlace.tsx';
import { type Offered, OffersProvider, useOffer } from './offers.tsx';
import { wording } from './wording.ts';

const PLACES = [
  { to: '/register', text: 'Register' },
  { to: '/reading', text: 'Reading' },
];
const chosen = vi.fn();
const offered = (key: string, name: string, reason: string | null = null): Offered => ({ key, name, reason });
const Page = () => {
  useOffer(
    {
      subject: 'THR-PRO-0118',
      possible: [offered('check out', 'Check out'), offered('revise', 'Revise')],
      impossible: [offered('release', 'Release', 'Nothing is approved.')],
      choose: chosen,
    },
    'page',
  );
  return null;
};
const draw = (page: boolean) =>
  renderPage(
    <OffersProvider>
      <FindLinePlace places={PLACES} />
      {page && <Page />}
    </OffersProvider>,
    { [at(api.find.find)]: { goTo: 'THR-PRO-0118', hits: [], capped: false, offers: [] } },
  );
const names = () => screen.getAllByRole('option').map((option) => option.textContent);

describe('the find line', () => {
  it('takes over what was typed before its list was there', async () => {
    const user = userEvent.setup();
    draw(false);
    await user.click(screen.getByLabelText(wording.enterANumberOrSearchText));
    await user.keyboard('0118{Enter}');
    await screen.findByRole('combobox');
    expect(sent.map((one) => one.path)).toContain('/api/find');
  });

  it('lists what can be done with the document that is shown, and does it', async () => {
    const user = userEvent.setup();
    draw(true);
    await user.keyboard('{Control>}k{/Control}');
    expect(await screen.findByRole('group', { name: 'Actions on THR-PRO-0118' })).toBeTruthy();
    expect(names()).toEqual(['Check out', 'Revise']);
    await user.keyboard('rev{Enter}');
    // The first is to search for what was typed; the action is one step below.
    expect(chosen).not.toHaveBeenCalled();
    await user.clear(screen.getByRole('combobox'));
    await user.keyboard('rev{ArrowDown}{Enter}');
    expect(chosen).toHaveBeenCalledWith(offered('revise', 'Revise'));
  });

  it('says of what is not possible why, and names places', async () => {
    const user = userEvent.setup();
    draw(true);
    await user.click(screen.getByRole('combobox'));
    await user.keyboard('re');
    expect(names()).toEqual(['Go to or search for re', 'Revise', 'ReleaseNothing is approved.', 'Register', 'Reading']);
    expect(screen.getByRole('option', { name: /^Release/ }).getAttribute('aria-disabled')).toBe('true');
  });

  it('lists the places where no document is shown', async () => {
    const user = userEvent.setup();
    draw(false);
    await user.click(screen.getByRole('combobox'));
    expect(names()).toEqual(['Register', 'Reading']);
  });
});
