// Gathers the licences of all that is shipped into public/licences.json, which the program carries: `make licences`.
// The crates by cargo-about, the packages by license-checker-rseidelsohn; each text once, with all that it is the licence of.

import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';

const run = (program, args) =>
  execFileSync(program, args, { encoding: 'utf8', maxBuffer: 1 << 28, stdio: ['ignore', 'pipe', 'inherit'] });

/** Texts by what they say, spaces aside. */
const texts = new Map();

function tell(id, text, name) {
  const key = text.replace(/\s+/g, ' ').trim();
  const known = texts.get(key) ?? { id, text: text.trim(), of: [] };
  if (!known.of.includes(name)) known.of.push(name);
  texts.set(key, known);
}

const about = ['about', 'generate', '--format', 'json', '--locked', '--offline', '--manifest-path'];
const crates = JSON.parse(run('cargo', [...about, '../crates/server/Cargo.toml']));
for (const { id, text, used_by } of crates.licenses)
  for (const { crate } of used_by)
    if (!crate.name.startsWith('warm-blend')) tell(id, text, `${crate.name} ${crate.version}`);

// Packages under `dependencies`, and the style sheet that is built in although it is a tool.
const checker = ['--yes', 'license-checker-rseidelsohn@5.0.1', '--json', '--start', '.'];
const shipped = JSON.parse(run('npx', [...checker, '--production']));
const all = JSON.parse(run('npx', checker));
const styles = Object.entries(all).filter(([name]) => name.startsWith('tailwindcss@'));
for (const [name, { licenses, licenseFile }] of [...Object.entries(shipped), ...styles]) {
  if (name.startsWith('warm-blend')) continue;
  const at = name.lastIndexOf('@');
  if (!licenseFile) throw new Error(`no licence of ${name} was found`);
  tell(String(licenses), readFileSync(licenseFile, 'utf8'), `${name.slice(0, at)} ${name.slice(at + 1)}`);
}

const gathered = [...texts.values()].map((one) => ({ ...one, of: one.of.sort() }));
gathered.sort((one, other) => other.of.length - one.of.length || one.id.localeCompare(other.id));
writeFileSync('public/licences.json', `${JSON.stringify(gathered, null, 1)}\n`);
console.log(`${gathered.length} texts of ${gathered.reduce((n, { of }) => n + of.length, 0)} packages`);
