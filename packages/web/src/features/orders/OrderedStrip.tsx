import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { showDay } from '../../ui/format.ts';
import { registerAddress } from './registerAddress.ts';
import { wording } from './wording.ts';

/** What is ordered and not registered yet, above the register: number, title, who writes it and by when. */
export const OrderedStrip = () => {
  const [isOpen, setOpen] = useState(false);
  const { data } = useQuery({ ...ask(api.orders.list, { query: {} }), staleTime: 60_000 });
  const coming = data?.orders.filter(({ document }) => document === null) ?? [];
  if (coming.length === 0) return null;
  return (
    <details
      className="border-b border-line bg-ochre-tint px-3.5 py-1 text-[12.5px]"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="min-h-6 cursor-pointer">{wording.ordered(coming.length)}</summary>
      {isOpen && (
        <ul className="max-h-48 overflow-y-auto">
          {coming.map((order) => (
            <li key={order.id} className="flex flex-wrap gap-x-3 py-0.5">
              <span className="num">{order.reservedNumber ?? order.number}</span>
              {order.mine ? (
                <Link className="link" to={registerAddress(order)}>
                  {order.title}
                </Link>
              ) : (
                <b className="font-semibold">{order.title}</b>
              )}
              <span className={order.overdue ? 'text-vermilion' : 'text-ink-2'}>
                {order.assignee.name}, {wording.due(showDay(order.dueOn))}
              </span>
            </li>
          ))}
        </ul>
      )}
    </details>
  );
};
