import { render } from '@testing-library/react'
import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { expect, test } from 'vitest'
import { Precaution } from './Precaution'

type Schema = { properties: Record<string, Schema>; items: Schema; enum: string[] }

const schema = JSON.parse(
  readFileSync(resolve(import.meta.dirname, '../../../docs/revtal-guide-1.schema.json'), 'utf8'),
) as Schema
const kinds = schema.properties.removals!.items.properties.precautions!.items.properties.kind!.enum
const drawn = (kind: string) =>
  render(<Precaution kind={kind} text="mind this" />)
    .container.querySelector('path')!
    .getAttribute('d')

test('every kind of warning that a guide may hold has a picture of its own', () => {
  const pictures = [...kinds, 'trap'].map(drawn)
  expect(kinds.length).toBeGreaterThan(5)
  expect(new Set(pictures).size).toBe(pictures.length)
})
