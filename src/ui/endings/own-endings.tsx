import Link from 'next/link';
import { useTranslations } from 'next-intl';
import {
  ENDING_WORTHS,
  endingsHref,
  type EndingsShown,
  type EndingWorthName,
} from '@/contract/own-endings';
import { isKept, tallyOf, type EndingTally, type OwnEnding } from '@/core/endings/own-endings';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import type { ListedEnding } from '@/server/own-endings';
import { PositionLink } from '../board/position-link';
import { gameHref } from '../desk-href';

/** Positions that are shown one by one, those of the latest games. */
const MOST_SHOWN = 24;

/** The name of all together; shorter than any mate, and more than any pieces. */
const ALL = '0';

/** Under which its worth is found. */
const worthOf = ({ worth, became }: OwnEnding): EndingWorthName =>
  worth === null || became === null ? 'unknown' : worth;

/** There is something to be learned from it: those are shown first. */
const isLetGo = ({ worth, became }: OwnEnding): boolean =>
  worth !== null && became !== null && !isKept(worth, became);

/** What was made of the endings of each game, by the pieces that they had; and the positions of which that is said. */
export function OwnEndings({
  endings,
  shown,
}: {
  /** Those of the latest games first. */
  endings: readonly ListedEnding[];
  shown: EndingsShown | null;
}) {
  return GAME_KINDS.map((kind) => {
    const some = endings.filter((ending) => ending.kind === kind);
    return (
      some.length > 0 && (
        <Tallies
          key={kind}
          kind={kind}
          endings={some}
          shown={shown?.kind === kind ? shown : null}
        />
      )
    );
  });
}

function Tallies({
  kind,
  endings,
  shown,
}: {
  kind: GameKind;
  endings: readonly ListedEnding[];
  shown: EndingsShown | null;
}) {
  const t = useTranslations('endings');
  const byName = new Map<string, ListedEnding[]>([[ALL, [...endings]]]);
  for (const ending of endings) {
    const known = byName.get(ending.name);
    if (known) known.push(ending);
    else byName.set(ending.name, [ending]);
  }
  const rows = [...byName].map(([name, some]) => ({ name, some, tally: tallyOf(some) }));
  // mates by their length; endings that came most often first, of those the ones that are known
  rows.sort((one, other) =>
    kind === 'shogi'
      ? Number(one.name) - Number(other.name)
      : other.some.length - one.some.length || one.tally.unknown - other.tally.unknown,
  );
  const worths = ENDING_WORTHS.filter((worth) =>
    rows.some(({ tally }) => (worth === 'unknown' ? tally.unknown : tally[worth].of) > 0),
  );
  const isKnown = ({ tally, some }: (typeof rows)[number]): boolean => tally.unknown < some.length;
  const known = rows.filter((row) => row.name === ALL || isKnown(row));
  const unknown = rows.filter((row) => !known.includes(row));
  const id = `endings-${kind}`;
  return (
    <section className="quiet-box" aria-labelledby={id}>
      <h2 id={id}>{t(`heading.${kind}`)}</h2>
      <div className="games-scroll">
        <table className="games-table">
          <thead>
            <tr>
              <th>{t(`name.${kind}`)}</th>
              <th className="text-end">{t('reached')}</th>
              {worths.map((worth) => (
                <th key={worth}>{t(`${kind}.${worth}`)}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {known.map(({ name, some, tally }) => (
              <tr key={name}>
                <td className="text-nowrap">
                  <NameText kind={kind} name={name} />
                </td>
                <td className="text-end">{some.length}</td>
                {worths.map((worth) => (
                  <td key={worth}>
                    <Figure
                      tally={tally}
                      asked={{ kind, name, worth }}
                      isShown={shown?.name === name && shown.worth === worth}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {unknown.length > 0 && (
        <details className="mt-2" open={unknown.some(({ name }) => name === shown?.name)}>
          <summary>{t('unknownOnes', { count: unknown.length })}</summary>
          <p className="soft m-0">{t('unknownHow')}</p>
          <ul className="list-inline m-0">
            {unknown.map(({ name, some }) => (
              <li key={name} className="list-inline-item">
                <Link href={endingsHref({ kind, name, worth: 'unknown' })}>
                  <NameText kind={kind} name={name} /> <span className="soft">({some.length})</span>
                </Link>
              </li>
            ))}
          </ul>
        </details>
      )}
      {shown && (
        <Positions
          asked={shown}
          endings={(byName.get(shown.name) ?? []).filter((one) => worthOf(one) === shown.worth)}
        />
      )}
    </section>
  );
}

function NameText({ kind, name }: Pick<EndingsShown, 'kind' | 'name'>) {
  const t = useTranslations('endings');
  if (name === ALL) return t('all');
  return kind === 'shogi' ? t('mateIn', { plies: name }) : name.replace(' ', ' – ');
}

/** How many of those of one worth were kept, with the way to them. */
function Figure({
  tally,
  asked,
  isShown,
}: {
  tally: EndingTally;
  asked: EndingsShown;
  isShown: boolean;
}) {
  const t = useTranslations('endings');
  const { worth } = asked;
  const { of, kept } = worth === 'unknown' ? { of: tally.unknown, kept: 0 } : tally[worth];
  if (of === 0) return <span className="soft">–</span>;
  return (
    <Link href={endingsHref(asked)} aria-current={isShown ? 'true' : undefined}>
      {worth === 'unknown' ? (
        of
      ) : (
        <>
          {t('keptOf', { kept, of })}
          <span className="kept-bar" aria-hidden="true">
            <span style={{ width: `${(100 * kept) / of}%` }} />
          </span>
        </>
      )}
    </Link>
  );
}

function Positions({ asked, endings }: { asked: EndingsShown; endings: readonly ListedEnding[] }) {
  const t = useTranslations('endings');
  return (
    <section id="shown" className="mt-3" aria-labelledby="shown-heading">
      <h3 id="shown-heading" className="fs-6">
        <NameText {...asked} /> · {t(`shown.${asked.kind}.${asked.worth}`)}{' '}
        {endings.length > MOST_SHOWN && (
          <span className="soft">{t('latest', { count: MOST_SHOWN, of: endings.length })}</span>
        )}
      </h3>
      {endings.length === 0 && <p className="soft">{t('noneLikeIt')}</p>}
      <ul className="lesson-list">
        {[...endings.filter(isLetGo), ...endings.filter((ending) => !isLetGo(ending))]
          .slice(0, MOST_SHOWN)
          .map((ending) => (
            <li key={`${ending.gameId}-${ending.ply}`}>
              <PositionLink
                href={gameHref(ending.gameId, ending.node)}
                kind={ending.kind}
                position={ending.position}
                below={ending.side}
              >
                <Said ending={ending} />
              </PositionLink>
            </li>
          ))}
      </ul>
    </section>
  );
}

/** Whose game it was, and what was made of it. */
function Said({ ending: { kind, players, date, event, worth, became } }: { ending: ListedEnding }) {
  const t = useTranslations('endings');
  return (
    <span className="fst-normal">
      {players[0] ?? '?'} – {players[1] ?? '?'}
      <br />
      <span className="soft">{[date, event].filter((part) => part !== null).join(' · ')}</span>
      {worth !== null && became !== null && (
        <>
          <br />
          {kind === 'shogi'
            ? t(worth === became ? `mate.${worth}.kept` : `mate.${worth}.letGo`)
            : t(worth === became ? `stayed.${worth}` : 'became', {
                worth: t(`worth.${worth}`),
                became: t(`worth.${became}`),
              })}
        </>
      )}
    </span>
  );
}
