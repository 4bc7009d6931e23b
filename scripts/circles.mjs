import { cruise } from 'dependency-cruiser';
import { dirname } from 'node:path';
import { pathToFileURL } from 'node:url';

/**
 * No circles between folders, imports of types included: which folder stands on which can always be said. A folder is the files that lie in it, without those of its folders, so that a
 * folder and one inside it can make a circle too. Tests do not count.
 */
const ROOTS = ['core/src', 'contract/src', 'server/src', 'web/src', 'e2e'];

/** Tarjan's strongly connected components (1972) of more than one node. */
export function circlesIn(graph) {
  const index = new Map();
  const low = new Map();
  const stack = [];
  const found = [];
  const visit = (node) => {
    index.set(node, index.size);
    low.set(node, index.get(node));
    stack.push(node);
    for (const next of graph.get(node) ?? []) {
      if (!index.has(next)) visit(next);
      if (stack.includes(next)) low.set(node, Math.min(low.get(node), low.get(next)));
    }
    if (low.get(node) !== index.get(node)) return;
    const circle = stack.splice(stack.indexOf(node));
    if (circle.length > 1) found.push(circle.sort());
  };
  for (const node of graph.keys()) if (!index.has(node)) visit(node);
  return found.sort((a, b) => (a[0] < b[0] ? -1 : 1));
}

/** Which folder imports from which. */
async function folders() {
  const { output } = await cruise(ROOTS, {
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.spec\\.ts$|node_modules|/dist/' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
  });
  const graph = new Map();
  for (const { source, dependencies } of output.modules) {
    const from = graph.get(dirname(source)) ?? new Set();
    graph.set(dirname(source), from);
    for (const { resolved } of dependencies) if (dirname(resolved) !== dirname(source)) from.add(dirname(resolved));
  }
  return graph;
}

/** What is wrong, in words; empty when all is well. */
async function faults() {
  const graph = await folders();
  if (graph.size < 20) return [`only ${graph.size} folders were read: the tool does not see the code`];
  return circlesIn(graph).map((circle) => `a circle of folders: ${circle.join(' ')}`);
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const wrong = await faults();
  for (const fault of wrong) console.log(fault);
  process.exitCode = wrong.length > 0 ? 1 : 0;
}
