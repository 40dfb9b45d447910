// Records `scenes.html` with Debian's Chromium into the film that the demo registers: node packages/demo/film/record.mjs
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium } from '@playwright/test';

const here = import.meta.dirname;
const TYPE = 'video/mp4;codecs=vp9';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' });
const page = await browser.newPage();
await page.goto(pathToFileURL(join(here, 'scenes.html')).href);
if (!(await page.evaluate((type) => window.supported(type), TYPE)))
  throw new Error(`this Chromium cannot record ${TYPE}`);
const film = Buffer.from(await page.evaluate((type) => window.recordFilm(type), TYPE), 'base64');
writeFileSync(join(here, '../files/use of the descender.mp4'), film);
process.stdout.write(`${film.length} bytes\n`);
await browser.close();
