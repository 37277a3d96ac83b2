import os from 'node:os';
import path from 'node:path';
import fc from 'fast-check';

// Generative tests repeat: the same seed unless another is asked for. FC_SEED=now takes a new one, which a failure
// prints.
const asked = process.env.FC_SEED;
fc.configureGlobal({ seed: asked === 'now' ? Date.now() % 2_147_483_647 : Number(asked ?? 20270202) });

// The stand-ins of the tests stand on this machine.
process.env.NUNTIAX_PRIVATE ??= '127.0.0.1';

// What the tests' houses seal is sealed with a key of the tests.
process.env.NUNTIAX_KEY_FILE ??= path.join(os.tmpdir(), 'nuntiax-tests.key');
