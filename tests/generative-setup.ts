import fc from 'fast-check';

// Generative tests repeat: the same seed unless another is asked for. FC_SEED=now takes a new one, which a failure prints.
const asked = process.env.FC_SEED;
fc.configureGlobal({ seed: asked === 'now' ? Date.now() % 2_147_483_647 : Number(asked ?? 20270202) });
