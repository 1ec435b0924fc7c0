// node scripts/notices.mjs SERVER_FOLDER WEB_FOLDER: what is shipped and under which licence, from the packages' own files; to standard output.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';

const [server, web] = process.argv.slice(2);
const parts = [];
const licenceIn = (folder) => {
  const file = readdirSync(folder).find((it) => /^(licen[cs]e|copying|ofl|third.?party.?notices)([._-].*)?$/i.test(it));
  return file ? readFileSync(join(folder, file), 'utf8').trim() : '';
};

const packages = process.env.NUGET_PACKAGES ?? join(homedir(), '.nuget', 'packages');
const { libraries } = JSON.parse(readFileSync(join(server, 'Osierwand.Demo.deps.json'), 'utf8'));
for (const [name, { type }] of Object.entries(libraries).sort()) {
  if (type !== 'package') continue;
  const folder = join(packages, name.toLowerCase());
  if (!existsSync(folder)) throw new Error(`The package ${name} is shipped and its folder is not there`);
  const nuspec = readFileSync(join(folder, readdirSync(folder).find((it) => it.endsWith('.nuspec'))), 'utf8');
  const said = (element) => nuspec.match(new RegExp(`<${element}[^>]*>([^<]*)</${element}>`))?.[1]?.trim() ?? '';
  const licence = said('license') || said('licenseUrl');
  if (!licence) throw new Error(`The package ${name} names no licence`);
  parts.push([name.replace('/', ' '), licence, said('copyright'), licenceIn(folder)]);
}

const lock = JSON.parse(readFileSync(join(web, 'package-lock.json'), 'utf8')).packages;
for (const [path, it] of Object.entries(lock).sort()) {
  const folder = join(web, path);
  if (!path || it.dev || it.optional || !existsSync(folder)) continue;
  if (!it.license) throw new Error(`The package ${path} names no licence`);
  parts.push([`${path.replace(/^.*node_modules\//, '')} ${it.version}`, it.license, '', licenceIn(folder)]);
}

console.log('Osierwand ships the following packages of others, under their licences.\n');
for (const [name, licence, copyright, text] of parts)
  console.log([`== ${name}`, `Licence: ${licence}`, copyright, text, ''].filter((it, i) => it || i === 4).join('\n'));
console.log('== Leaked passwords\nLicence: MIT. The list refused as passwords is derived from @zxcvbn-ts/language-common.');
console.log('Copyright (c) 2012-2016 Dan Wheeler and Dropbox, Inc. Copyright (c) 2021 @zxcvbn-ts');
