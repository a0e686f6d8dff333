import { build } from 'esbuild';

const common = {
  outdir: 'dist',
  entryNames: '[name]',
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
  // Packages in the older form ask for Node's modules by `require`.
  banner: {
    js: "import { createRequire as requireFor } from 'node:module';\nconst require = requireFor(import.meta.url);",
  },
};

/** What draws and unpacks pictures is compiled for the machine. */
const compiled = ['sharp', '@napi-rs/canvas'];

/**
 * The server is one file with the packages it uses: reading them one by one out of hundreds of small files took most of
 * the time of a start. What is compiled for the machine stays a package, and so does the framework, which reads files of
 * its own.
 */
await build({
  ...common,
  entryPoints: ['src/main.ts'],
  // PDFs are read in a thread, whose file holds their reader.
  external: ['next', 'better-sqlite3', 'pdfjs-dist', ...compiled],
});

/** The thread that reads what comes from outside: one file, so that it begins at once. */
await build({ ...common, entryPoints: ['src/workers/reading.ts'], external: compiled });

/** The thread that prints: the typesetter is compiled for the machine, and fonts lie beside their packages. */
await build({ ...common, entryPoints: ['src/workers/printing.ts'], packages: 'external' });

/** The thread of made-up handsets: one file, so that it is read only where somebody asks for some. */
await build({ ...common, entryPoints: ['src/workers/handsets.ts'] });
