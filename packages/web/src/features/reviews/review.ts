import type { AnswerOf, api } from '@kanonos/contract';

/** What a review has to go by, as the server answers it. */
export type Review = AnswerOf<typeof api.reviews.get>;
