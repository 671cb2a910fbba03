import { openKept } from '@eppu/cli/commands';
import { openSourceStore } from '@eppu/server/store';
import { layAnew, usualArrange } from './packages/core/src/arrange/index.ts';
const store = openSourceStore('/tmp/seed.db');
const engine = await openKept(store.load('demo-smoker'), store as any, 'demo-smoker').catch(()=>null) as any;
