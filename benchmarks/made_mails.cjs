// Makes whole mails of what packages keep as sources: templates in elements of their own, and themes that are filled.
// Run by fetch.py: node made_mails.cjs <folder with node_modules> <folder of templates and their sheet> <where to>
const fs = require('node:fs')
const path = require('node:path')

const [tools, templates, to] = process.argv.slice(2)
const of = (name) => require(path.join(path.resolve(tools), 'node_modules', name))
const { Inky } = of('inky')
const juice = of('juice')
const Mailgen = of('mailgen')
fs.mkdirSync(to, { recursive: true })

const sheet = fs.readFileSync(path.join(templates, 'dist', 'foundation-emails.css'), 'utf8')
for (const file of fs.readdirSync(path.join(templates, 'templates'))) {
  if (!file.endsWith('.html') || file.startsWith('_')) continue
  const source = fs.readFileSync(path.join(templates, 'templates', file), 'utf8')
  const whole = `<!doctype html><html><head><style>${sheet}</style></head><body>${source}</body></html>`
  fs.writeFileSync(path.join(to, `foundation-${file}`), juice(new Inky({}).releaseTheKraken(whole, {})))
}

const greeting = {
  name: 'Ida Lund',
  intro: 'Welcome aboard! We are very glad to have you.',
  action: { instructions: 'To begin, press here:', button: { color: '#22BC66', text: 'Confirm your account', link: 'https://x.invalid/c' } },
  outro: 'Need help, or have questions? Just answer this mail.',
}
const order = {
  name: 'Ida Lund',
  intro: 'Your order was processed.',
  table: {
    data: [
      { item: 'Lantern', description: 'brass', price: '10.99' },
      { item: 'Rope', description: 'ten feet', price: '1.99' },
    ],
    columns: { customWidth: { item: '20%', price: '15%' } },
  },
  action: { instructions: 'See the state of your order:', button: { color: '#3869D4', text: 'Go to dashboard', link: 'https://x.invalid/d' } },
  outro: 'We thank you for your purchase.',
}
for (const theme of ['default', 'neopolitan', 'salted', 'cerberus']) {
  for (const [name, body] of Object.entries({ greeting, order })) {
    const made = new Mailgen({ theme, product: { name: 'Harbor Supply', link: 'https://x.invalid/' } }).generate({ body })
    fs.writeFileSync(path.join(to, `${theme}-${name}.html`), made)
  }
}
