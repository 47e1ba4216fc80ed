/** How a reply stands to a request, whatever the protocol; `other` names the first thing that does not fit. */
export type Pairing =
  | { readonly kind: 'answer' }
  /** The station answers, and refuses. */
  | { readonly kind: 'exception'; readonly code: number }
  | { readonly kind: 'other'; readonly why: string };
