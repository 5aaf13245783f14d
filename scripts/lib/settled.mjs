// @ts-check

/**
 * Waits until a screen stands: nothing on it is still being opened, read or drawn, and it was the same a moment ago. (The network
 * is never idle: the server tells of what is written as long as a page is open.)
 * @param {{ waitForFunction: (what: () => boolean, arg: undefined, options: { polling: number }) => Promise<unknown> }} page
 */
export async function settled(page) {
  await page.waitForFunction(
    () => {
      const now = document.body.innerHTML;
      const own = /** @type {{ stood?: string }} */ (/** @type {unknown} */ (window));
      const isSame = own.stood === now;
      own.stood = now;
      return (
        isSame &&
        ![...document.querySelectorAll('p')].some(({ textContent }) => /…\s*$/.test(textContent ?? ''))
      );
    },
    undefined,
    { polling: 250 },
  );
}
