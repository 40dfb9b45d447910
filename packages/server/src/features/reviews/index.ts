// What other features may use of this one.
export { latestReviewDays, moveReview, reviewAfterRelease } from './service.ts';
