/** A category as stored. */
export type CategoryRow = { id: string; parentId: string | null; name: string; position: number };

/** A category in its tree, with how many questions it holds itself and together with everything below. */
export type CategoryNode = {
  id: string;
  parentId: string | null;
  name: string;
  depth: number;
  own: number;
  below: number;
};

const bySpot = (a: CategoryRow, b: CategoryRow) => a.position - b.position || (a.id < b.id ? -1 : 1);

/** The tree in reading order, with counts. @param counts questions per category id */
export function categoryTree(rows: readonly CategoryRow[], counts: ReadonlyMap<string, number>): CategoryNode[] {
  const children = new Map<string | null, CategoryRow[]>();
  for (const row of rows) children.set(row.parentId, [...(children.get(row.parentId) ?? []), row]);
  const nodes: CategoryNode[] = [];
  const visit = (row: CategoryRow, depth: number): number => {
    const own = counts.get(row.id) ?? 0;
    const node: CategoryNode = { id: row.id, parentId: row.parentId, name: row.name, depth, own, below: own };
    nodes.push(node);
    for (const child of (children.get(row.id) ?? []).sort(bySpot)) node.below += visit(child, depth + 1);
    return node.below;
  };
  for (const root of (children.get(null) ?? []).sort(bySpot)) visit(root, 0);
  return nodes;
}

/** The ids from the root down to each category. */
export function categoryPaths(rows: readonly CategoryRow[]): Map<string, string[]> {
  const byId = new Map(rows.map((row) => [row.id, row]));
  const paths = new Map<string, string[]>();
  const pathOf = (id: string): string[] => {
    const known = paths.get(id);
    if (known) return known;
    const row = byId.get(id);
    const path = row?.parentId ? [...pathOf(row.parentId), id] : [id];
    paths.set(id, path);
    return path;
  };
  for (const row of rows) pathOf(row.id);
  return paths;
}

/** The names of each category of a tree and those above it, by id. */
export function nodePathNames(nodes: readonly CategoryNode[]): Map<string, string> {
  const names = new Map<string, string>();
  for (const { id, parentId, name } of nodes) {
    const above = parentId === null ? undefined : names.get(parentId);
    names.set(id, above === undefined ? name : `${above} › ${name}`);
  }
  return names;
}

/** The names of each category and those above it, by id, in the order of the tree. */
export const categoryPathNames = (rows: readonly CategoryRow[]): Map<string, string> =>
  nodePathNames(categoryTree(rows, new Map()));

/** Whether `id` may be put below `parentId`: never below itself. */
export function mayMoveBelow(rows: readonly CategoryRow[], id: string, parentId: string | null): boolean {
  return parentId === null || !(categoryPaths(rows).get(parentId) ?? []).includes(id);
}
