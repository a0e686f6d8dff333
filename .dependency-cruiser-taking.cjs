/** What a student downloads during an exam, seen after types are erased: no editor, no chart, no schema library. */
module.exports = {
  forbidden: [
    {
      name: 'taking-page-is-light',
      severity: 'error',
      from: { path: '^src/(ui/attempt/|ui/question/[^/]+/Player|core/question/types/[^/]+/student)' },
      to: { path: 'node_modules/(zod|@tiptap|chart\\.js|mathjs|katex)(/|$)', reachable: true },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
