import { expose } from 'comlink';
import { precisionOf } from '../../core/plan/precision.ts';

/** Hundreds of noncentral-t tails: off the page's own thread, so that typing never waits for them. */
const service = { precisionOf };
export type PrecisionService = typeof service;
expose(service);
