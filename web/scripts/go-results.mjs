// Prints what matters of `go test -json`: failures with their output, a line for each package.
import { readFileSync } from 'node:fs'

const output = new Map()
let failed = 0
for (const line of readFileSync(process.argv[2], 'utf8').split('\n')) {
  if (!line.startsWith('{')) continue
  const e = JSON.parse(line)
  const key = `${e.Package ?? e.ImportPath} ${e.Test ?? ''}`
  if (e.Action === 'output' || e.Action === 'build-output') output.set(key, (output.get(key) ?? '') + e.Output)
  if (e.Action === 'fail' || e.Action === 'build-fail') {
    failed++
    console.log(`--- FAIL: ${key}\n${output.get(key) ?? ''}`)
  }
  if (e.Action === 'pass' && !e.Test) console.log(`ok   ${e.Package}  ${e.Elapsed.toFixed(1)} s`)
}
process.exitCode = failed ? 1 : 0
