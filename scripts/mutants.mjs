// npm run mutants [-- room …] [count=60] [seed=1] [own=1]: changes one sign, bound or number of the core at a time and
// sees whether a test says so: one of its room, or else (not with own=1) one of the rooms that use it. In a copy: the
// tree is left as it is. Prints a line for each that nobody noticed, but for those of mutants-equal.json, which change
// nothing that is put out: they are counted apart.
import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import ts from 'typescript';
import { root } from './lib/say.mjs';

const ROOMS = ['marks', 'drive', 'holding', 'budget', 'output', 'burn', 'long', 'feeder', 'samples', 'runs', 'ways'];
/** Where a room is used: looked at when its own tests notice nothing. */
const ABOVE = ['core/src/ways', 'core/src/batch', 'core/src/bench-sim'];

const words = process.argv.slice(2);
const option = (name, otherwise) => Number(words.find((w) => w.startsWith(`${name}=`))?.split('=')[1] ?? otherwise);
const count = option('count', 60);
const seed = option('seed', 1);
const own = option('own', 0) === 1;
const rooms = words.filter((w) => !w.includes('='));

const K = ts.SyntaxKind;
const SWAPS = new Map([
  [K.PlusToken, '-'],
  [K.MinusToken, '+'],
  [K.AsteriskToken, '/'],
  [K.SlashToken, '*'],
  [K.LessThanToken, '<='],
  [K.LessThanEqualsToken, '<'],
  [K.GreaterThanToken, '>='],
  [K.GreaterThanEqualsToken, '>'],
  [K.EqualsEqualsEqualsToken, '!=='],
  [K.ExclamationEqualsEqualsToken, '==='],
  [K.AmpersandAmpersandToken, '||'],
  [K.BarBarToken, '&&'],
]);
const CALLS = {
  min: 'max',
  max: 'min',
  sin: 'cos',
  cos: 'sin',
  floor: 'ceil',
  ceil: 'floor',
  some: 'every',
  every: 'some',
};

/** Every place of a file where one thing can be put for another. */
const places = (text) => {
  const file = ts.createSourceFile('x.ts', text, ts.ScriptTarget.Latest, true);
  const found = [];
  const add = (node, to) => found.push({ start: node.getStart(file), end: node.getEnd(), to });
  const visit = (node) => {
    // Types say nothing at run time, and words are looked at by eye.
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isImportDeclaration(node)) return;
    if (ts.isTemplateExpression(node)) return;
    if (ts.isBinaryExpression(node)) {
      const to = SWAPS.get(node.operatorToken.kind);
      const text = [node.left, node.right].some((n) => ts.isStringLiteral(n) || ts.isTemplateExpression(n));
      if (to && !(text && to === '-')) add(node.operatorToken, to);
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === K.MinusToken)
      add(node, node.operand.getText(file));
    else if (ts.isNumericLiteral(node)) {
      const value = Number(node.text.replace(/_/g, ''));
      add(node, value === 0 ? '1' : value === 1 ? '2' : String(value * 1.5));
    } else if (ts.isPropertyAccessExpression(node) && CALLS[node.name.text] && ts.isCallExpression(node.parent))
      add(node.name, CALLS[node.name.text]);
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
};

/** Numbers below one, the same for the same seed (mulberry32). */
const seeded = (from) => {
  let a = from;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
};

const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory()
      ? filesIn(join(folder, e.name))
      : /\.ts$/.test(e.name) && !/\.test\.ts$|\.d\.ts$|^test-/.test(e.name)
        ? [join(folder, e.name)]
        : [],
  );

const copy = mkdtempSync(join(tmpdir(), 'bistre-mutants-'));
for (const name of [
  'core',
  'contract',
  'jest.config.mjs',
  'jest.setup.mjs',
  'jest.properties.mjs',
  'package.json',
  'tsconfig.json',
])
  cpSync(join(root, name), join(copy, name), { recursive: true, filter: (from) => !/node_modules|dist$/.test(from) });
// The configuration names these folders; nothing of them is needed.
for (const path of ['server/src', 'web/src/testing', 'scripts']) mkdirSync(join(copy, path), { recursive: true });
writeFileSync(join(copy, 'web/src/testing/browser.ts'), '');
symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => process.exit(1));
process.on('exit', () => rmSync(copy, { recursive: true, force: true }));

/** Whether the tests of these folders notice that something is wrong. */
const noticed = (...where) =>
  spawnSync(
    join(root, 'node_modules/.bin/jest'),
    ['--selectProjects', 'core and server', '--bail', '--silent', ...where],
    {
      cwd: copy,
      env: { ...process.env, DATABASE_URL: '' },
      timeout: 400_000,
      killSignal: 'SIGKILL',
    },
  ).status !== 0;

if (noticed('core/src/units')) {
  console.error('The tests fail as they are, or cannot run here.');
  process.exit(1);
}
const equal = new Set(
  JSON.parse(readFileSync(join(root, 'scripts/mutants-equal.json'), 'utf8')).flatMap(({ changes }) =>
    changes.map((c) => `${c.file} ${c.change} ${c.line}`),
  ),
);
const table = [];
for (const room of rooms.length > 0 ? rooms : ROOMS) {
  const random = seeded(seed);
  const all = filesIn(join(copy, 'core/src', room)).flatMap((file) =>
    places(readFileSync(file, 'utf8')).map((at) => ({ file, ...at })),
  );
  const chosen = all
    .map((at) => ({ at, by: random() }))
    .sort((a, b) => a.by - b.by)
    .slice(0, count)
    .map(({ at }) => at);
  let killed = 0;
  let alike = 0;
  for (const { file, start, end, to } of chosen) {
    const text = readFileSync(file, 'utf8');
    const line = text.slice(0, start).split('\n').length;
    const whole = text.split('\n')[line - 1].trim();
    const change = `${text.slice(start, end)} → ${to}`;
    writeFileSync(file, text.slice(0, start) + to + text.slice(end));
    const seen =
      noticed(`core/src/${room}/`) || (!own && noticed(...ABOVE.filter((above) => above !== `core/src/${room}`)));
    writeFileSync(file, text);
    if (seen) killed += 1;
    else if (equal.has(`${relative(copy, file)} ${change} ${whole}`)) alike += 1;
    else console.log(`${relative(copy, file)}:${line} ${change}   ${whole.slice(0, 120)}`);
  }
  table.push({ tried: chosen.length - alike, killed });
  console.log(
    `${room}: ${killed} of ${chosen.length - alike} noticed (${Math.round((100 * killed) / (chosen.length - alike))} %), ${alike} more change nothing; of ${all.length} places`,
  );
}
const [tried, killed] = ['tried', 'killed'].map((k) => table.reduce((s, r) => s + r[k], 0));
console.log(`all: ${killed} of ${tried} noticed (${Math.round((100 * killed) / tried)} %)`);
