import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';

interface Violation {
  readonly id: string;
  readonly nodes: { readonly html: string }[];
}

/** What axe (4.14) finds against WCAG 2.2 AA on the page as it stands. */
export async function violations(page: Page): Promise<string[]> {
  const source = await readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
  await page.evaluate(source);
  // What is fading in has not its own colours yet.
  await page.evaluate(async () => {
    const ended = document.getAnimations().map((animation) => animation.finished.catch(() => undefined));
    await Promise.race([Promise.all(ended), new Promise((resolve) => setTimeout(resolve, 2000))]);
  });
  const found = await page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: { run: (options: object) => Promise<{ violations: Violation[] }> };
    };
    const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
    return (await axe.run({ runOnly: { type: 'tag', values: tags } })).violations;
  });
  return found.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`);
}
