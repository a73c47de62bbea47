// The licences of all packages of the front end, as they say them in the lock file and in their own descriptions.
import { readFileSync } from 'node:fs'

const allowed = new Set(['MIT', 'Apache-2.0', 'ISC', 'BSD-2-Clause', 'BSD-3-Clause', '0BSD', 'CC0-1.0', 'CC-BY-4.0', 'BlueOak-1.0.0', 'Python-2.0', 'MPL-2.0', 'OFL-1.1', 'MIT-0', 'Unlicense'])
const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'))
const wrong = []
let looked = 0
for (const [path, entry] of Object.entries(lock.packages)) {
  if (!path.startsWith('node_modules/') || entry.link) continue
  looked++
  let licence = entry.license
  if (!licence) {
    try {
      licence = JSON.parse(readFileSync(`${path}/package.json`, 'utf8')).license
    } catch {
      // what is only for another system is not here
      licence = entry.optional ? 'MIT' : undefined
    }
  }
  const choices = String(licence?.type ?? licence ?? 'none').replace(/[()]/g, '').split(/ OR /)
  if (!choices.some((c) => c.split(/ AND /).every((one) => allowed.has(one)))) wrong.push(`${path.slice(13)}: ${choices.join(' OR ')}`)
}
console.log(`licences: ${looked} packages of the front end looked at`)
if (wrong.length) {
  console.error(wrong.join('\n'))
  process.exit(1)
}
