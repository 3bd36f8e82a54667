import { api, type Shape } from '../../../api/client'
import { saveFile } from '../../../app/saveFile'

type Body = { people: Shape<'Chosen'>; format: 'csv' | 'xlsx' | 'vcard'; columns: string[]; sort: Shape<'Sort'> | null }

/** Writes people to a file and hands it to the browser. */
export async function saveExport(body: Body): Promise<void> {
  saveFile(await api.POST('/api/people/export', { body: { ...body, sort: body.sort ?? undefined }, parseAs: 'blob' }), 'people')
}
