import { api, type Order } from '@kanonos/contract';
import { isOrderOpen } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { workAddress } from '../../ui/addresses.ts';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { showDay } from '../../ui/format.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { useInAddress } from '../../ui/useInAddress.ts';
import { ChangeOrderDialog, EndOrderDialog } from './ChangeOrderDialogs.tsx';
import { registerAddress } from './registerAddress.ts';
import { wording } from './wording.ts';

type Asked = { order: Order; what: 'change' | 'withdrawn' | 'declined' };

/** Orders that one gave, has, or that concern what one controls. */
export const OrderList = () => {
  const [all, setAll] = useInAddress('all');
  const [asked, setAsked] = useState<Asked | null>(null);
  const { data, error, isPending, refetch } = useQuery(
    ask(api.orders.list, { query: all ? { all: 'yes' as const } : {} }),
  );
  if (isPending) return <Loading what={wording.theOrders} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const { orders } = data;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <Tick checked={all !== ''} onChange={(on) => setAll(on ? 'yes' : '')}>
          {wording.endedToo}
        </Tick>
        {orders.length > 0 && (
          <ExportMenu
            list={listOf(wording.orders, orders, [
              [wording.orders, ({ number }) => number],
              [wording.number, (order) => order.document?.number ?? order.reservedNumber ?? ''],
              [wording.title, ({ title }) => title],
              [wording.who, ({ assignee }) => assignee.name],
              [wording.by, ({ dueOn }) => dueOn],
              [wording.standing, ({ standing }) => wording.standings[standing]],
              [wording.orderedBy, ({ by }) => by.name],
              [wording.why, ({ why }) => why],
            ])}
          />
        )}
      </div>
      {orders.length === 0 ? (
        <Empty title={wording.none}>{wording.noneHint}</Empty>
      ) : (
        <ul className="border border-line bg-sheet">
          {orders.map((order) => (
            <Row key={order.id} order={order} ask={(what) => setAsked({ order, what })} />
          ))}
        </ul>
      )}
      {asked?.what === 'change' && <ChangeOrderDialog order={asked.order} close={() => setAsked(null)} />}
      {asked && asked.what !== 'change' && (
        <EndOrderDialog order={asked.order} how={asked.what} close={() => setAsked(null)} />
      )}
    </>
  );
};

const Row = ({ order, ask: open }: { order: Order; ask: (what: Asked['what']) => void }) => {
  const isOpen = isOrderOpen(order.standing);
  return (
    <li className="grid grid-cols-[240px_minmax(0,1fr)_180px_220px] items-start gap-x-4 gap-y-1.5 border-b border-line-2 px-3 py-2.5 last:border-0 max-lg:grid-cols-1">
      <span className="min-w-0">
        <span className="num text-ink-3">{order.number}</span>
        {order.document ? (
          <Link className="block hover:underline" to={workAddress(order.document.number)}>
            <span className="num block">
              {order.document.number} {order.document.label}
            </span>
            <b className="font-semibold">{order.title}</b>
          </Link>
        ) : (
          <span className="block">
            {order.reservedNumber && <span className="num block">{order.reservedNumber}</span>}
            <b className="font-semibold">{order.title}</b>
          </span>
        )}
        <span className="block text-[12px] text-ink-2">
          {order.kind === 'write' ? wording.toWrite(order.type.name) : wording.toRevise(order.type.name)}
        </span>
      </span>
      <span className="min-w-0 break-words">
        {order.why}
        {order.endedReason && <span className="block text-ink-2">{order.endedReason}</span>}
      </span>
      <span>
        <b className="font-semibold">{order.assignee.name}</b>
        <span className={`block text-[12.5px] ${order.overdue ? 'text-vermilion' : 'text-ink-2'}`}>
          {order.overdue ? wording.wasDue(showDay(order.dueOn)) : wording.due(showDay(order.dueOn))}
        </span>
        <span className="block text-[12.5px] text-ink-2">
          {wording.standings[order.standing]}, {wording.from(order.by.name)}
        </span>
      </span>
      <span className="flex flex-wrap justify-end gap-1.5 max-lg:justify-start">
        {isOpen && order.mine && order.standing === 'not begun' && !order.document && (
          <Link className="btn btn-pri" to={registerAddress(order)}>
            {wording.begin}
          </Link>
        )}
        {order.mayChange && (
          <>
            <button type="button" className="btn" onClick={() => open('change')}>
              {wording.changeOrder}
            </button>
            <button type="button" className="btn" onClick={() => open('withdrawn')}>
              {wording.withdraw}
            </button>
          </>
        )}
        {isOpen && order.mine && (
          <button type="button" className="btn" onClick={() => open('declined')}>
            {wording.decline}
          </button>
        )}
      </span>
    </li>
  );
};
