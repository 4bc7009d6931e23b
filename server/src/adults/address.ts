import { getConnInfo } from '@hono/node-server/conninfo';
import type { Context } from 'hono';
import ipaddr from 'ipaddr.js';

/** One household or school has a whole network of these (RFC 6177): they count as one. */
const IPV6_NETWORK_GROUPS = 4;

/**
 * Where a request comes from, as tries are counted.
 * @param proxied whether a reverse proxy stands in front, which writes the address it sees last into X-Forwarded-For; what a sender wrote before that is anybody's word
 */
export function addressOf(c: Context, proxied: boolean): string {
  const forwarded = proxied ? c.req.header('x-forwarded-for')?.split(',').at(-1)?.trim() : undefined;
  const seen = forwarded ?? getConnInfo(c).remote.address ?? '';
  if (!ipaddr.isValid(seen)) return 'unknown';
  const address = ipaddr.process(seen);
  if (address.kind() === 'ipv4') return address.toString();
  return (address as ipaddr.IPv6).parts.slice(0, IPV6_NETWORK_GROUPS).join(':');
}

/** Is this Host header an address of Vane's? Addresses in numbers always are: only a name can be made to point here by somebody else's name server. */
export function isOwnHost(host: string, names: ReadonlySet<string>): boolean {
  let name: string;
  try {
    name = new URL(`http://${host}`).hostname.replace(/^\[|\]$/g, '');
  } catch {
    return false;
  }
  return ipaddr.isValid(name) || names.has(name);
}

/** Vane's address for links that somebody makes: by the name that they came by, where that is one of the schools' own, so that the links stay good when a school is carried elsewhere. */
export function homeUrlOf(
  host: string,
  { publicUrl, schoolHosts }: { readonly publicUrl: string; readonly schoolHosts: readonly string[] },
): string {
  const name = host.replace(/:\d+$/, '').toLowerCase();
  return schoolHosts.includes(name) ? `${new URL(publicUrl).protocol}//${host.toLowerCase()}` : publicUrl;
}
