import { expect } from '@playwright/test';
import type { Locator, Page } from '@playwright/test';
import type { HouseFile } from '../core/src/house/house-file.js';

/** An open house in a browser, in the crew's words. */
export class HousePage {
  constructor(
    readonly page: Page,
    private readonly file: HouseFile,
    private readonly base: string,
  ) {}

  boxId(tag: string): string {
    return this.file.boxes.find((box) => box.tag === tag)!.id;
  }

  async open(stage: string, room: string, more: Record<string, string> = {}): Promise<void> {
    const roomId = this.file.rooms.find(({ name }) => name === room)!.id;
    const query = new URLSearchParams({ room: roomId, ...more });
    await this.page.goto(`${this.base}/house/${this.file.id}/${stage}?${query}`);
    await this.page.getByRole('heading', { level: 1 }).waitFor();
  }

  stage(name: string): Locator {
    return this.page.getByRole('navigation', { name: 'Stages of the work' }).getByRole('link', { name });
  }

  room(name: string): Locator {
    return this.page.getByRole('navigation', { name: 'Rooms, in walking order' }).getByRole('link', { name });
  }

  /** On a phone: a touch opens the rooms, another picks one. On a busy machine a touch may last too long to count. */
  async pickRoom(name: string): Promise<void> {
    const where = this.page.getByRole('button', { name: /^Where I am/ });
    await expect(async () => {
      if ((await where.getAttribute('aria-expanded')) !== 'true') await where.tap();
      await expect(this.room(name)).toBeVisible({ timeout: 1000 });
    }).toPass();
    await this.room(name).tap();
  }

  /** Two touches. */
  async logPull(run: string, by = 'Lead'): Promise<void> {
    await this.page.getByRole('button', { name: `Log pull ${run}`, exact: true }).click();
    await expect(this.page.getByRole('combobox', { name: 'Pulled by' }).locator(':checked')).toHaveText(by);
    await this.page.getByRole('button', { name: 'Log it: in' }).click();
  }

  pulled(run: string): Locator {
    return this.page.getByRole('button', { name: `Pull of ${run}`, exact: true });
  }

  box(tag: string): Locator {
    return this.page
      .getByRole('list', { name: 'Boxes of the room' })
      .getByRole('link')
      .filter({ hasText: new RegExp(`^\\s*${tag}\\b`) });
  }

  gauge(): Locator {
    return this.page.locator('mt-bench mt-fill-gauge');
  }

  /** Waits until nothing is left to send. */
  async sent(): Promise<void> {
    await this.page
      .getByText(/unsent/)
      .first()
      .waitFor({ state: 'hidden' });
  }
}
