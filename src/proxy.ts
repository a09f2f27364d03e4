import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type NextRequest, NextResponse } from 'next/server';
import { policy } from './app/policy';

const known = new Map<string, string>();

/** The built page that is served at a path; that of no page for any other. */
function pageOf(path: string): string {
  const name = /^\/[a-z]+$/.test(path) ? path.slice(1) : path === '/' ? 'index' : '_not-found';
  for (const file of [name, '_not-found']) {
    try {
      return readFileSync(join(process.cwd(), '.next', 'server', 'app', `${file}.html`), 'utf8');
    } catch {
      // Not built as a page of its own.
    }
  }
  return '';
}

/** The policy of a page: its inline scripts by their hashes, and no others. */
function policyOf(path: string): string {
  const before = known.get(path);
  if (before) return before;
  // While developing, pages are made anew for every request and their code is made out of text.
  if (process.env.NODE_ENV === 'development')
    return policy(["'unsafe-inline'", "'unsafe-eval'"]).replace("connect-src 'self'", "connect-src 'self' ws:");
  const scripts = [...pageOf(path).matchAll(/<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g)];
  const hashes = scripts.map(([, text]) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`);
  const made = policy([...new Set(hashes)]);
  if (known.size < 50) known.set(path, made);
  return made;
}

export function proxy(request: NextRequest): NextResponse {
  const response = NextResponse.next();
  response.headers.set('Content-Security-Policy', policyOf(request.nextUrl.pathname));
  return response;
}

export const config = { matcher: '/((?!_next/static|demo/|vision/).*)' };
