/** Write what each number that is sent may be, as the API's contract states it: `node ranges.mjs openapi.json to.ts`. */
import { readFileSync, writeFileSync } from 'node:fs'
import process from 'node:process'

const [from, to] = process.argv.slice(2)
const { schemas } = JSON.parse(readFileSync(from, 'utf8')).components
const rows = Object.entries(schemas)
  .filter(([name]) => name.endsWith('In'))
  .map(([name, { properties = {} }]) => {
    const numbers = Object.entries(properties).flatMap(([field, said]) => {
      const bounds = [said, ...(said.anyOf ?? [])].find((one) => 'minimum' in one && 'maximum' in one)
      return bounds ? [`    ${field}: [${bounds.minimum}, ${bounds.maximum}],\n`] : []
    })
    return numbers.length > 0 ? `  ${name}: {\n${numbers.join('')}  },\n` : ''
  })
writeFileSync(
  to,
  `/** Written by \`make schema\` from the API's contract: the least and most of each number that is sent. */\n` +
    `export const RANGES = {\n${rows.join('')}} as const\n`,
)
