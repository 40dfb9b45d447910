import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { showDay } from '../../ui/format.ts';
import { wording } from './wording.ts';

/** The order to revise a document, on its page: for whom, by when, why. */
export const OrdersOnDocument = ({ documentId }: { documentId: string }) => {
  const { data } = useQuery(ask(api.orders.ofDocument, { params: { document: documentId } }));
  if (!data || data.orders.length === 0) return null;
  return (
    <ul className="px-0.5 text-[12.5px]">
      {data.orders.map((order) => (
        <li key={order.id}>
          <Link className="hover:underline" to="/changes?show=orders">
            <span className={order.overdue ? 'text-vermilion' : 'text-ochre'}>
              {wording.onDocument(order.assignee.name, showDay(order.dueOn))}
            </span>
            <span className="text-ink-2">: {order.why}</span>
          </Link>
        </li>
      ))}
    </ul>
  );
};
