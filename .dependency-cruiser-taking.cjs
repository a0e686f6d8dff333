/**
 * What a student downloads during an exam, seen after types are erased: no editor, no chart, no schema library. Only what
 * the files named in the command lead to is looked at, so that whatever is found is downloaded.
 */
module.exports = {
  forbidden: [
    {
      name: 'taking-page-is-light',
      severity: 'error',
      from: {},
      to: { path: 'node_modules/(zod|@tiptap|chart\\.js|mathjs|katex)(/|$)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.test\\.tsx?$' },
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
