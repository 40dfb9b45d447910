// What was still being drawn when the last test of a file ended is done before its page goes: else it fails where no test looks.
import { cleanup } from '@testing-library/react';
import { afterAll } from 'vitest';

afterAll(async () => {
  cleanup();
  await new Promise((resolve) => setTimeout(resolve, 30));
});
