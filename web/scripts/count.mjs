// The closing line of ./chalk test: how many tests passed and failed, Go and front end together.
import { existsSync, readFileSync } from 'node:fs'

const [goFile, webFile] = process.argv.slice(2)
let passed = 0,
  failed = 0,
  skipped = 0
for (const line of readFileSync(goFile, 'utf8').split('\n')) {
  if (!line.startsWith('{')) continue
  const e = JSON.parse(line)
  if (e.Action === 'build-fail') failed++
  if (!e.Test) continue
  if (e.Action === 'pass') passed++
  if (e.Action === 'fail') failed++
  if (e.Action === 'skip') skipped++
}
if (existsSync(webFile)) {
  const r = JSON.parse(readFileSync(webFile, 'utf8'))
  passed += r.numPassedTests
  failed += r.numFailedTests + (r.numPassedTests + r.numFailedTests === 0 ? 1 : 0)
} else failed++
console.log(`${passed} passed, ${failed} failed, ${skipped} skipped`)
process.exitCode = failed || !passed ? 1 : 0
