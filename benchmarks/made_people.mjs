// Draws people, each in every tone of skin that a style has; the tone stands in the name of the file.
// Run by fetch.py: node made_people.mjs <folder with node_modules> <where to>
import fs from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'

const [tools, to] = process.argv.slice(2)
const of = (name) => import(pathToFileURL(path.join(path.resolve(tools), 'node_modules', name, 'lib', 'index.js')))
const { createAvatar } = await of('@dicebear/core')
const styles = await of('@dicebear/collection')
fs.mkdirSync(to, { recursive: true })

const EACH = 3
for (const [title, style] of Object.entries(styles)) {
  const said = style.schema?.properties ?? {}
  // What a style calls the color of all of a person, and what it is where nothing is said.
  const key = ['skinColor', 'baseColor'].find((one) => said[one]?.default)
  const tones = (key ? said[key].default : []).filter((one) => /^[0-9a-f]{6}$/i.test(one))
  // Faces alone, and robots, are none.
  if (tones.length < 3 || title.endsWith('Neutral') || title === 'bottts') continue
  for (const tone of tones) {
    for (let number = 0; number < EACH; number++) {
      const drawn = createAvatar(style, { seed: `${title}${tone}${number}`, [key]: [tone] }).toString()
      if (!drawn.toLowerCase().includes(`#${tone.toLowerCase()}`)) continue
      fs.writeFileSync(path.join(to, `${title}-${tone}-${number}.svg`), drawn)
    }
  }
}
