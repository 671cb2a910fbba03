// A thread of the pool: tsx is registered here where the sources run as they are, since a thread does not inherit it.
import { parentPort, workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
const { serve } = await import('./thread.ts');
await serve(workerData, parentPort);
