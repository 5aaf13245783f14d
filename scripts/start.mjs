// @ts-check
import { serve } from './lib/serve.mjs';
import { main } from './lib/steps.mjs';

await main(() => serve());
