import { expect, it } from 'vitest';
import { launchBrowser } from './browser';

it('a click waits until what was done before is stored and shown', async () => {
  const browser = await launchBrowser();
  const page = await browser.newPage();
  await page.setContent(`<button>Void</button><p id="said"></p><script>
    const root = document.documentElement;
    root.setAttribute('data-under-way', '');
    setTimeout(() => root.removeAttribute('data-under-way'), 300);
    document.querySelector('button').onclick = () => {
      document.querySelector('#said').textContent = root.hasAttribute('data-under-way') ? 'early' : 'then';
    };
  </script>`);
  await page.locator('button').click();
  expect(await page.$eval('#said', (line) => line.textContent)).toBe('then');
  await browser.close();
});

it('a click that meets something else, because the page moves under the pointer, is made again', async () => {
  const browser = await launchBrowser();
  const page = await browser.newPage();
  await page.setContent(`<div id="before"></div><button>Void</button><p id="said">0</p><script>
    const said = document.querySelector('#said');
    addEventListener('mousedown', () => { document.querySelector('#before').style.height = '200px'; });
    document.querySelector('button').onclick = () => { said.textContent = Number(said.textContent) + 1; };
  </script>`);
  await page.locator('button').click();
  expect(await page.$eval('#said', (line) => line.textContent)).toBe('1');
  await browser.close();
});
