/**
 * What a page or worker may load and run (W3C Content Security Policy Level 3): this origin only; compiled code, but none made out of
 * text. `scripts` are further script sources, such as the hashes of a page's inline scripts.
 */
export function policy(scripts: readonly string[]): string {
  return [
    "default-src 'self'",
    `script-src ${["'self'", "'wasm-unsafe-eval'", ...scripts].join(' ')}`,
    // Sizes and places of what is drawn are styles set on elements.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "font-src 'self'",
    "connect-src 'self'",
    // The container library's timers and the AAC encoder start workers out of their own text.
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}
