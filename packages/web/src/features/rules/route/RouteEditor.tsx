import type { Route, TypeRule, Unit } from '@kanonos/contract';
import type { RoutedKind } from '@kanonos/core';
import { type ReactNode, useState } from 'react';
import { Tick } from '../../../ui/Tick.tsx';
import { wording } from '../wording.ts';
import { RouteSteps } from './RouteSteps.tsx';
import { TryRouteDialog } from './TryRouteDialog.tsx';

/** One route: its steps, what holds for all of them, and trying it on documents of the type. */
export const RouteEditor = ({
  route,
  rule,
  onChange,
  nameOf,
  units,
  typeId,
  changeKind,
  children,
}: {
  route: Route;
  rule: TypeRule;
  onChange: (route: Route) => void;
  nameOf: (id: string) => string;
  units: readonly Unit[];
  /** The type as it is saved, on whose documents a route is tried; a new one has none. */
  typeId: string | undefined;
  changeKind?: RoutedKind | undefined;
  /** Commands beside trying it. */
  children?: ReactNode;
}) => {
  const [isTrying, setIsTrying] = useState(false);
  return (
    <>
      <RouteSteps route={route} rule={rule} onChange={onChange} nameOf={nameOf} units={units} />
      {route.steps.some((step) => step.editing) && (
        <div className="mt-2">
          <Tick
            checked={route.keepsDecisions !== true}
            onChange={(again) => {
              const { keepsDecisions: _, ...others } = route;
              onChange(again ? others : { ...others, keepsDecisions: true });
            }}
          >
            {wording.askAgainAfterACheckIn}
          </Tick>
        </div>
      )}
      {route.steps.length > 0 && (
        <div className="mt-2">
          <Tick
            checked={route.decidedAlone === true}
            onChange={(alone) => {
              const { decidedAlone: _, ...others } = route;
              onChange(alone ? { ...others, decidedAlone: true } : others);
            }}
          >
            {wording.decidedOneByOne}
          </Tick>
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {typeId && route.steps.length > 0 && (
          <button type="button" className="btn" onClick={() => setIsTrying(true)}>
            {wording.tryThisRoute}
          </button>
        )}
        {children}
      </div>
      {isTrying && typeId && (
        <TryRouteDialog
          typeId={typeId}
          route={route}
          fallbackApproverId={rule.fallbackApproverId}
          changeKind={changeKind}
          close={() => setIsTrying(false)}
        />
      )}
    </>
  );
};
