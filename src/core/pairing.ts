/** How a reply stands to a request, whatever the protocol; `other` names the first thing that does not fit. */
export type Pairing =
  | { readonly kind: 'answer' }
  /** The station answers, and refuses. */
  | { readonly kind: 'exception'; readonly code: number }
  /** The station answers this request, but has not done yet what was asked; the same must be asked again. */
  | { readonly kind: 'pending'; readonly why: string }
  | { readonly kind: 'other'; readonly why: string };
