import { cruise } from 'dependency-cruiser';
import { dirname } from 'node:path';
const { output } = await cruise(['core/src','contract/src','server/src','web/src','e2e'], { tsPreCompilationDeps: true, doNotFollow: { path: 'node_modules' }, exclude: { path: '\\.spec\\.ts$|node_modules|/dist/' }, enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] } });
const want = process.argv.slice(2).map((a)=>a.split(','));
for (const { source, dependencies } of output.modules) for (const { resolved } of dependencies) {
  const a=dirname(source), b=dirname(resolved); if (a===b) continue;
  if (want.some((w)=>w.includes(a)&&w.includes(b))) console.log(a.replace(/^(core|server|web)\/src\/?(app\/)?/,'')+' -> '+b.replace(/^(core|server|web)\/src\/?(app\/)?/,'')+'   '+source.split('/').pop()+' : '+resolved.split('/').pop());
}
