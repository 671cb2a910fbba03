// The second thread of the composite rows: tsx is registered here, since a worker thread does not inherit it.
import { parentPort, workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
const { serve } = await import('./compositeThread.ts');
await serve(workerData, parentPort);
