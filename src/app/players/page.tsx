import type { Metadata } from 'next';
import Link from 'next/link';
import { getTranslations } from 'next-intl/server';
import { listPlayers, lookalikes, MOST_PLAYERS } from '@/server/players';
import { JoinButton } from '@/ui/players/player-tools';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('players'))('title') };
}

/** Groups of names that may be one person, as many as are shown. */
const MOST_GROUPS = 20;

/** Everybody who plays in the owner's games. */
export default async function PlayersPage() {
  const t = await getTranslations('players');
  const players = await listPlayers(await signedIn());
  const groups = lookalikes(players).slice(0, MOST_GROUPS);
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { count: players.length })}</span>
        </div>
        {players.length === 0 && <p className="soft">{t('none')}</p>}
        {groups.length > 0 && (
          <section className="quiet-box" aria-labelledby="alike">
            <h2 id="alike">{t('alike')}</h2>
            <ul className="list-unstyled m-0">
              {groups.map(([into, ...others]) => (
                <li key={into!.id} className="text-break">
                  {t('oneOf', { names: [into!, ...others].map(({ name }) => name).join(' = ') })}{' '}
                  <JoinButton into={into!} others={others} />
                </li>
              ))}
            </ul>
          </section>
        )}
        {players.length > 0 && (
          <div className="games-scroll quiet-box p-0">
            <table className="games-table of-rows">
              <thead>
                <tr>
                  <th>{t('name')}</th>
                  <th>{t('alsoKnownAs')}</th>
                  <th className="text-end">{t('gamesColumn')}</th>
                  <th>{t('latest')}</th>
                </tr>
              </thead>
              <tbody>
                {players.map(({ id, name, names, isSelf, games, latest }) => (
                  <tr key={id}>
                    <td className="wide">
                      <Link href={`/players/${id}`}>{name}</Link>
                      {isSelf && <span className="soft"> ({t('me')})</span>}
                    </td>
                    <td className="soft wide">
                      {names.filter((other) => other !== name).join(', ')}
                    </td>
                    <td className="text-end">{games}</td>
                    <td>{latest ?? '–'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        {players.length >= MOST_PLAYERS && (
          <p className="soft">{t('most', { most: MOST_PLAYERS })}</p>
        )}
      </main>
    </>
  );
}
