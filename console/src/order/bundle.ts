import type { BundleFile } from '../api/client'

/** What a file that was carried here holds: the collector's is a bundle itself. */
export async function toBundleFiles(file: File): Promise<BundleFile[]> {
  if (file.name.endsWith('.revtal')) {
    try {
      const bundle = JSON.parse(await file.text()) as { format?: string; files?: BundleFile[] }
      if (bundle.format === 'revtal-capture/1' && bundle.files) return bundle.files
    } catch {
      // Cut off on the way: the service says so.
    }
  }
  return [await toBundleFile(file)]
}

async function toBundleFile(file: File): Promise<BundleFile> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return { name: file.name, content: btoa(text) }
}
