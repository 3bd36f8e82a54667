import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../../api/client'
import { stale } from '../../../app/stale'
import { ErrorNote } from '../../../parts/States'

/** A list that is not there yet, made here by its name. */
export function NewList({ name: begins = '', onMade }: { name?: string; onMade: (id: number) => void }) {
  const client = useQueryClient()
  const [name, setName] = useState(begins)
  const make = useMutation({
    mutationFn: () => ask(api.POST('/api/lists', { body: { name: name.trim() } })),
    onSuccess: (list) => {
      stale(client, 'lists')
      setName('')
      onMade(list.id)
    },
  })
  return (
    <div>
      <span className="field-label">Or a new list</span>
      {make.error && <ErrorNote error={make.error} />}
      <span className="flex gap-2">
        <input
          className="text-field"
          aria-label="Name of a new list"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || !name.trim()) return
            // Within a form it is this that is meant.
            event.preventDefault()
            make.mutate()
          }}
        />
        <button
          type="button"
          className="btn btn-sm btn-plain"
          disabled={!name.trim() || make.isPending}
          onClick={() => make.mutate()}
        >
          Make it
        </button>
      </span>
    </div>
  )
}
