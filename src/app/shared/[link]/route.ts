import { NextResponse } from 'next/server';
import { LINK, LINKS_COOKIE, linksOf, MOST_LINKS } from '@/server/access';
import { grantOfLink } from '@/server/grants';
import { settings } from '@/server/settings';
import { route } from '../../api/guard';

const YEAR_SECONDS = 365 * 24 * 3600;

/** Opens a link: the browser remembers it, and goes to what it gives. */
export const GET = route<{ link: string }>(async (request, { link }) => {
  const grant = LINK.test(link) ? await grantOfLink(link) : null;
  const to = (path: string) => new NextResponse(null, { status: 303, headers: { Location: path } });
  if (!grant) return to('/given?gone=1');
  const { scope } = grant;
  const answer = to(scope.of === 'game' ? `/games/${scope.id}` : `/given/${grant.id}`);
  const links = [link, ...linksOf(request.headers).filter((known) => known !== link)];
  answer.cookies.set(LINKS_COOKIE, links.slice(0, MOST_LINKS).join('.'), {
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: YEAR_SECONDS,
    secure: settings().https,
  });
  return answer;
});
