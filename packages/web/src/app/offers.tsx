import { createContext, type ReactNode, useContext, useEffect, useRef, useState } from 'react';

/** Something that can be done with what the page shows; `reason` says why not, where it cannot. */
export type Offered = { key: string; name: string; reason: string | null };

/** What a page lets the find line do: what it is about, what can be done with it and what cannot, and how. */
export type Offers<A extends Offered = Offered> = {
  subject: string;
  possible: readonly A[];
  impossible: readonly A[];
  choose: (action: A) => void;
};

const OffersContext = createContext<{ offers: Offers | null; set: (offers: Offers | null) => void }>({
  offers: null,
  set: () => {},
});

/** Around the frame and its pages: a page hands its actions up, the find line lists them. */
export const OffersProvider = ({ children }: { children: ReactNode }) => {
  const [offers, set] = useState<Offers | null>(null);
  return <OffersContext value={{ offers, set }}>{children}</OffersContext>;
};

/** What the page that is shown offers; null where it offers nothing. */
export const useOffers = (): Offers | null => useContext(OffersContext).offers;

/** Offers actions to the find line while the page is shown. The list is renewed when `version` changes. */
export const useOffer = <A extends Offered>(offers: Offers<A> | null, version: string): void => {
  const { set } = useContext(OffersContext);
  const latest = useRef(offers);
  latest.current = offers;
  // biome-ignore lint/correctness/useExhaustiveDependencies: `version` stands for what is offered
  useEffect(() => {
    const now = latest.current;
    set(
      now && {
        ...now,
        choose: (action) => latest.current?.choose(action as A),
      },
    );
    return () => set(null);
  }, [version, set]);
};
