import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { JSONContent } from '@tiptap/react'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { Modal } from '../../parts/Modal'
import { ErrorNote, Loading } from '../../parts/States'
import { LazyEditor } from '../letters/editor/LazyEditor'

type Signature = Shape<'Signatures'>['signatures'][number]

/** The words of a document, line by line. */
function wordsOf(node: JSONContent): string {
  if (node.type === 'text') return node.text ?? ''
  if (node.type === 'hardBreak') return ' · '
  return (node.content ?? []).map(wordsOf).join(node.type === 'doc' ? ' · ' : '')
}

function Edit({ signature, onClose }: { signature: Signature; onClose: () => void }) {
  const client = useQueryClient()
  const begin = (signature.document ?? signature.unsigned ?? { type: 'doc', content: [{ type: 'paragraph' }] }) as JSONContent
  const [document, setDocument] = useState<JSONContent>(begin)
  const save = useMutation({
    mutationFn: (kept: JSONContent | null) =>
      ask(
        api.PUT('/api/signatures/{kind}/{id}', {
          params: { path: { kind: signature.kind, id: signature.id } },
          body: { document: kept as Shape<'Document'> | null },
        }),
      ),
    onSuccess: (saved) => {
      client.setQueryData(['signatures'], saved)
      stale(client, 'signatures')
      onClose()
    },
  })
  return (
    <Modal title={`Signature of ${signature.name}`} onClose={onClose}>
      {save.error && <ErrorNote error={save.error} />}
      <div className="sheet !shadow-none letter-text px-5 py-4">
        <LazyEditor
          label="Signature"
          className="min-h-24"
          document={begin}
          onChange={setDocument}
          placeholder="Name, then how to reach you"
        />
      </div>
      <div className="flex justify-end gap-2 mt-4">
        {signature.document && (
          <button type="button" className="btn btn-sm btn-plain mr-auto" onClick={() => save.mutate(null)}>
            Name and firm only
          </button>
        )}
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button type="button" className="btn btn-sm btn-primary" disabled={save.isPending} onClick={() => save.mutate(document)}>
          Sign with this
        </button>
      </div>
    </Modal>
  )
}

/** What each colleague and each mailbox signs with; a mailbox's own goes before its colleague's. */
export function Signatures() {
  const [editing, setEditing] = useState<Signature | null>(null)
  const { data, error } = useQuery({ queryKey: ['signatures'], queryFn: () => ask(api.GET('/api/signatures')) })
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Signatures</h2>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading lines={3} />}
      <table className="plain w-full">
        <tbody>
          {data?.signatures.map((one) => (
            <tr key={`${one.kind} ${one.id}`}>
              <td className="w-64">
                <span className="font-semibold">{one.name}</span>
                <span className="muted text-xs block">{one.kind === 'mailbox' ? 'mailbox' : one.detail}</span>
              </td>
              <td className={one.document ? '' : 'muted'}>
                {one.document
                  ? wordsOf(one.document as JSONContent)
                  : one.kind === 'mailbox'
                    ? 'its colleague’s, or name and firm'
                    : 'name and firm'}
              </td>
              <td className="text-right">
                <button type="button" className="btn btn-xs btn-plain" onClick={() => setEditing(one)}>
                  Write…
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {editing && <Edit signature={editing} onClose={() => setEditing(null)} />}
    </section>
  )
}
