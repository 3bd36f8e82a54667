import { useQuery } from '@tanstack/react-query'
import { type CSSProperties, useMemo } from 'react'
import { api, ask } from '../../../api/client'

/** How the firm's designed letters look. */
export function useLook() {
  return useQuery({ queryKey: ['look'], queryFn: () => ask(api.GET('/api/look')), staleTime: 30_000 })
}

/** The look as styles for the sheet one writes on. */
export function useLookStyle(): CSSProperties {
  const { data } = useLook()
  return useMemo(() => {
    if (!data) return {}
    const font = data.fonts.find((one) => one.key === data.values.font)?.stack
    return {
      '--look-accent': data.values.accent,
      '--look-on-accent': data.values.on_accent,
      background: data.values.sheet,
      color: data.values.ink,
      fontFamily: font,
    } as CSSProperties
  }, [data])
}
