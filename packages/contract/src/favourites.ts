import { z } from 'zod';
import { DocumentParam, Id } from './common.ts';
import { endpoint } from './endpoint.ts';

/** What a person keeps at hand. */
export const favourites = {
  set: endpoint({
    id: 'setFavourite',
    feature: 'favourites',
    method: 'PUT',
    path: '/api/documents/:document/favourite',
    summary: 'Add a document to your favourites, or remove it from them',
    params: DocumentParam,
    body: z.strictObject({ favourite: z.boolean() }),
    problems: ['not_found', 'input_invalid'],
  }),
  order: endpoint({
    id: 'orderFavourites',
    feature: 'favourites',
    method: 'PUT',
    path: '/api/favourites',
    summary: 'Put your favourites into an order',
    body: z.strictObject({ documentIds: z.array(Id).max(500) }),
    problems: ['input_invalid'],
  }),
};
