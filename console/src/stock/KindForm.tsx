import { NativeSelect, TextInput } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, newKey, typedSize } from '../api/client'
import { Trouble } from '../parts/Trouble'

/** A new line of the catalogue; a known number is changed. */
export function KindForm({ onDone }: { onDone: () => void }) {
  const client = useQueryClient()
  const [what, setWhat] = useState<'module' | 'drive'>('module')
  const [f, setF] = useState<Record<string, string>>({})
  const n = (name: string) => (f[name]?.trim() ? Number(f[name]) : null)
  const t = (name: string) => f[name]?.trim() || null
  const typed = (name: string) => typedSize(f[name] ?? '')
  const save = useMutation({
    mutationFn: async (header: ReturnType<typeof newKey>) => {
      await api.PUT('/api/v1/parts/kind/{number}', {
        params: { path: { number: f.number ?? '' }, header },
        body: {
          name: f.name ?? '',
          price: n('price') ?? -1,
          pieces: n('pieces') ?? 1,
          least: n('least') ?? 0,
          barcode: t('barcode'),
          supplier: t('supplier'),
          warrantyMonths: n('warranty') ?? null,
          elsewhere: t('elsewhere')
            ? {
                price: n('elsewhere') ?? -1,
                whose: t('whose') ?? "the maker's list",
                seen: t('seen') ?? new Date().toLocaleDateString('sv'),
              }
            : null,
          module:
            what === 'module'
              ? { size: typed('size'), generation: t('generation'), form: t('form'), ratedSpeed: n('speed') }
              : null,
          drive:
            what === 'drive'
              ? { size: typed('size'), form: t('form'), key: t('key'), link: t('link') }
              : null,
        },
      })
    },
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['parts'] })
      onDone()
    },
  })
  const field = (name: string, label: string, placeholder = '') => (
    <TextInput
      label={label}
      placeholder={placeholder}
      value={f[name] ?? ''}
      onChange={(e) => setF({ ...f, [name]: e.target.value })}
    />
  )
  return (
    <form
      className="sheet kind-form"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate(newKey())
      }}
    >
      {field('number', 'Part number')}
      {field('name', 'Name')}
      <NativeSelect
        label="What it is"
        value={what}
        onChange={(e) => setWhat(e.target.value as 'module' | 'drive')}
        data={[
          { value: 'module', label: 'memory module' },
          { value: 'drive', label: 'drive' },
        ]}
      />
      {field('size', 'Size of one', what === 'module' ? '16 GB' : '1 TB')}
      {what === 'module' && field('generation', 'Generation', 'DDR4')}
      {field('form', 'Form', what === 'module' ? 'SO-DIMM' : 'M.2 2280')}
      {what === 'module' ? field('speed', 'Speed, MT/s', '3200') : field('key', 'Key', 'M')}
      {what === 'drive' && field('link', 'Link', 'PCIe 4.0 x4')}
      {field('pieces', 'Pieces of a kit', '1')}
      {field('price', 'Price, without tax', '49.00')}
      {field('least', 'Least on the shelf', '0')}
      {field('barcode', 'Barcode')}
      {field('supplier', 'Supplier')}
      {field('warranty', 'Warranty, months', '24')}
      {field('elsewhere', 'Price elsewhere, without tax', '64.00')}
      {t('elsewhere') && field('whose', 'Whose price', "the maker's list")}
      {t('elsewhere') && field('seen', 'Seen on', '2026-11-20')}
      <div className="kind-end">
        <Trouble error={save.error} />
        <button className="button" disabled={!f.number?.trim() || save.isPending}>
          Keep it
        </button>
      </div>
    </form>
  )
}
