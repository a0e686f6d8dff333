/** What the bench uses of jsdom, which ships without types. */
declare module 'jsdom' {
  export class JSDOM {
    window: { DOMParser: typeof DOMParser; HTMLElement: typeof HTMLElement };
  }
}
