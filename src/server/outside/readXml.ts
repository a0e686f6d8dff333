import { SaxesParser } from 'saxes';

/** What a part of a document may hold: more is no document that people wrote. */
const limits = { depth: 256, tags: 3_000_000 };

/** Why reading stopped, in words for whoever brought the file. */
export class NotRead extends Error {}

export type XmlTag = { name: string; attributes: Readonly<Record<string, string>> };

/**
 * Reads XML from its beginning to its end, once, and keeps nothing of it: memory does not grow with its size. Prefixes of
 * names are left out.
 *
 * @throws NotRead where it is damaged, declares entities of its own, or nests deeper than anything that people write
 */
export function readXml(
  xml: Uint8Array,
  on: { open(tag: XmlTag): void; close(name: string): void; text?(text: string): void },
): void {
  const parser = new SaxesParser();
  let depth = 0;
  let tags = 0;
  const bare = (name: string) => name.slice(name.indexOf(':') + 1);
  parser.on('error', () => {
    throw new NotRead('This document is damaged: its text cannot be read.');
  });
  parser.on('doctype', () => {
    throw new NotRead('This document declares entities of its own, which no word processor does.');
  });
  parser.on('opentag', ({ name, attributes }) => {
    depth += 1;
    tags += 1;
    if (depth > limits.depth || tags > limits.tags)
      throw new NotRead('This document is built of far more parts than people write.');
    on.open({ name: bare(name), attributes: named(attributes) });
  });
  parser.on('closetag', ({ name }) => {
    depth -= 1;
    on.close(bare(name));
  });
  parser.on('text', (text) => on.text?.(text));
  parser.on('cdata', (text) => on.text?.(text));
  const decoder = new TextDecoder();
  for (let at = 0; at < xml.length; at += slice)
    parser.write(decoder.decode(xml.subarray(at, at + slice), { stream: true }));
  parser.write(decoder.decode()).close();
}

const slice = 65_536;

/** Attributes by their names without prefixes; `r:id` and `id` never stand together in what is read here. */
const named = (attributes: Readonly<Record<string, string>>): Record<string, string> => {
  const found: Record<string, string> = Object.create(null);
  for (const name of Object.keys(attributes)) found[name.slice(name.indexOf(':') + 1)] = attributes[name] as string;
  return found;
};
