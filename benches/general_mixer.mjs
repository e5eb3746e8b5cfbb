// Mixes per second of a general-purpose pigment-mixing library on one thread, two parts to a perceptual colour.
// Paints are prepared beforehand, as the engine's are; every mix has its own ratio. Prints one number.
import spectral from 'spectral.js';

const seconds = Number(process.argv[2] ?? 2);
const blue = new spectral.Color('#2f5f9e');
const yellow = new spectral.Color('#e3b93a');

let sum = 0;
function run(count) {
  for (let i = 0; i < count; i++) {
    sum += spectral.mix([blue, 1 + (i % 97)], [yellow, 50]).OKLab[0];
  }
}

run(50_000); // warm up the compiler
let done = 0;
const start = process.hrtime.bigint();
let elapsed = 0;
while (elapsed < seconds) {
  run(10_000);
  done += 10_000;
  elapsed = Number(process.hrtime.bigint() - start) / 1e9;
}
if (!Number.isFinite(sum)) throw new Error('the mixes came out as nothing');
console.log(Math.round(done / elapsed));
