import Ajv2020 from 'ajv/dist/2020'
import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { expect, test } from 'vitest'
import { parse } from 'yaml'
import { setPlace } from './places'

const root = resolve(import.meta.dirname, '../../..')
const guides = readdirSync(resolve(root, 'guides')).filter((f) => f.endsWith('.yaml'))
const file = (name: string) => readFileSync(resolve(root, 'guides', name), 'utf8')
const schema = JSON.parse(readFileSync(resolve(root, 'docs/revtal-guide-1.schema.json'), 'utf8')) as object
const valid = new Ajv2020({ strict: false }).compile(schema)

test.each(guides)('%s keeps to the published schema, read by another YAML reader', (name) => {
  valid(parse(file(name)))
  expect(valid.errors).toBe(null)
})

test.each([
  ['an unknown key', 'generation: DDR4', 'generatoin: DDR4'],
  ['another unit', 'length: 5 mm', 'length: 5 in'],
  ['a place off the drawing', '[0.62, 0.71]', '[0.62, 7.1]'],
  ['an unknown latch', 'latch: spread-both', 'latch: velcro'],
])('the schema refuses %s', (_, was, is) => {
  const text = file('FJ14.yaml')
  expect(text).toContain(was)
  expect(valid(parse(text.replace(was, is)))).toBe(false)
})

test('placing one hole changes nothing else', () => {
  const yaml = `# a note that stays\n${file('FJ14.yaml')}`
  const placed = setPlace(yaml, { kind: 'fastener', removal: 'base', group: 'base', index: 2 }, 0.5, 0.25)
  expect(placed).toContain('# a note that stays')
  const [before, after] = [parse(yaml), parse(placed)] as {
    removals: { fasteners: { at: number[][] }[] }[]
  }[]
  expect(after!.removals[2]!.fasteners[0]!.at[2]).toEqual([0.5, 0.25])
  after!.removals[2]!.fasteners[0]!.at[2] = before!.removals[2]!.fasteners[0]!.at[2]!
  expect(after).toEqual(before)
})

test('a slot, a bay, and a group without places can be placed', () => {
  const yaml =
    'memory: { slots: [{ id: S1 }] }\ndrives: [{ id: D1 }]\n' +
    'removals: [{ id: r, fasteners: [{ group: g, count: 2 }] }]\n'
  const slot = parse(setPlace(yaml, { kind: 'slot', name: 'S1' }, 0.1, 0.2)) as {
    memory: { slots: { at: number[] }[] }
  }
  expect(slot.memory.slots[0]!.at).toEqual([0.1, 0.2])
  const bay = parse(setPlace(yaml, { kind: 'bay', name: 'D1' }, 0.3, 0.4)) as { drives: { at: number[] }[] }
  expect(bay.drives[0]!.at).toEqual([0.3, 0.4])
  const screw = parse(setPlace(yaml, { kind: 'fastener', removal: 'r', group: 'g', index: 1 }, 0.5, 0.6)) as {
    removals: { fasteners: { at: number[][] }[] }[]
  }
  expect(screw.removals[0]!.fasteners[0]!.at[1]).toEqual([0.5, 0.6])
})
