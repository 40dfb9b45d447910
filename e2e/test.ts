import { test as base } from '@playwright/test';

export { expect } from '@playwright/test';

/**
 * A walk whose browser contexts end with it. Those that a walk opens by itself stay open until the browser ends: a hundred pages
 * that go on asking the server make every later walk slower, and take the memory of a small machine.
 */
export const test = base.extend<{ endContexts: undefined }>({
  endContexts: [
    async ({ browser }, use) => {
      await use(undefined);
      await Promise.all(browser.contexts().map((context) => context.close()));
    },
    { auto: true },
  ],
});
