type Node = { attrs?: Record<string, unknown> | null; marks?: { attrs?: Record<string, unknown> | null }[]; content?: Node[] }

/** Every address that a letter leads to, as it is written, each once. */
export function linksIn(document: unknown): string[] {
  const found: string[] = []
  const look = (node: Node) => {
    for (const attrs of [node.attrs, ...(node.marks ?? []).map((mark) => mark.attrs)])
      if (typeof attrs?.href === 'string' && attrs.href) found.push(attrs.href)
    node.content?.forEach(look)
  }
  look(document as Node)
  return [...new Set(found)]
}
