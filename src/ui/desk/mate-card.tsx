'use client';

import { useState, type ReactNode } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { PlusLg } from 'react-bootstrap-icons';
import type { Side } from '@/core/game/ruleset';
import { impasseOf, PIECES_NEEDED, type ImpasseNeed } from '@/core/shogi/declaration';
import type { ShogiPosition } from '@/core/shogi/position';
import { creditOf } from '@/core/shogi/ruleset';
import { MATE_PLIES, type MateAnswer, type MateLook } from '@/core/ask/mate';
import { rove } from '../roving';
import { useSideName } from '../side-name';
import { useOpenCard } from './card-order';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useDesk, useDeskStore, useMay } from './desk-store';
import { LineMoves, useLinePreview, type Preview } from './line-moves';
import { MoveHere } from './move-here';
import { useMates, type Mates } from './use-mates';
import { useMoveHere } from './use-move-here';

/** Positions looked at for each mate, as long as the card is folded, and open. */
const GLANCE = 10_000;
const LOOK = 200_000;
/** How much further one may look at a time. */
const FURTHER = 10;
/** Moves that hold, as many as are listed. */
const MOST_HOLDING = 12;

/** What is certain about a shogi position: forced mates, what threatens, and how near an impasse is. */
export function MateCard() {
  const t = useTranslations('mates');
  const place = useCardPlace();
  const { isOpen } = useOpenCard('ending');
  const [further, setFurther] = useState<{ name: string; factor: number } | null>(null);
  const factor = further?.name === place.name ? further.factor : 1;
  const mates = useMates(place, (isOpen ? LOOK : GLANCE) * factor);
  const { card, onPreview, preview } = useLinePreview<HTMLDivElement>();
  return (
    <DeskCard
      name="ending"
      title={t('title')}
      className="ending-card"
      bodyRef={card}
      headline={<Headline {...mates} />}
    >
      <Found {...mates} onPreview={onPreview} />
      {mates.done && !isSettled(mates.look!) && (
        <Button
          variant="plain"
          size="sm"
          onClick={() => setFurther({ name: place.name, factor: factor * FURTHER })}
        >
          {t('further')}
        </Button>
      )}
      <Impasse />
      {preview}
    </DeskCard>
  );
}

/** Whether looking longer can change nothing. */
const isSettled = ({ own, danger, holds }: MateLook): boolean => {
  if (own.mate !== null) return own.proven && own.undecided === 0;
  if (!own.proven || !danger?.proven) return false;
  return danger.mate === null || (holds?.isProven ?? false);
};

function Headline({ look, done, failed }: Mates) {
  const t = useTranslations('mates');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const place = useCardPlace();
  if (failed) return t('failed');
  if (!look) return t('looking');
  const { own, danger, holds } = look;
  if (own.mate !== null) return t('mate', { plies: own.mate });
  if (danger && danger.mate !== null) {
    const isChecked = ruleset.inCheck(place.position);
    const said = t(isChecked ? 'mated' : 'threat', { plies: danger.mate });
    if (isChecked || !holds) return said;
    return `${said} · ${t('hold', { count: holds.moves.length, of: holds.of })}`;
  }
  return t(done ? 'none' : 'looking');
}

/** The mates that were found, and their moves. */
function Found({
  look,
  done,
  failed,
  onPreview,
}: Mates & { onPreview(preview: Preview | null): void }) {
  const t = useTranslations('mates');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const place = useCardPlace();
  if (failed) return <p role="alert">{t('failedLong')}</p>;
  if (!look) return <p className="soft m-0">{t('looking')}</p>;
  const { own, danger, holds } = look;
  if (own.mate !== null)
    return (
      <>
        <Length answer={own}>{t('mate', { plies: own.mate })}</Length>
        <Moves
          title={
            own.first.length === 1 && own.undecided === 0 && done
              ? t('only')
              : t('begins', { count: own.first.length })
          }
          codes={own.first}
          onPreview={onPreview}
        />
        <Line answer={own} onPreview={onPreview} />
      </>
    );
  const isChecked = ruleset.inCheck(place.position);
  return (
    <>
      <p className="m-0">
        {t('ownNone')} <Nothing answer={own} done={done || danger !== null} />
      </p>
      {danger && danger.mate === null && (
        <p className="m-0">
          {t(isChecked ? 'checkedNone' : 'threatNone')} <Nothing answer={danger} done={done} />
        </p>
      )}
      {danger && danger.mate !== null && (
        <>
          <Length answer={danger}>
            {t(isChecked ? 'mated' : 'threat', { plies: danger.mate })}
          </Length>
          <Line answer={danger} passed={!isChecked} onPreview={onPreview} />
          {isChecked && <Moves title={t('longest')} codes={danger.first} onPreview={onPreview} />}
          {holds && (
            <Moves
              title={`${t('hold', { count: holds.moves.length, of: holds.of })}${holds.isProven ? '' : ` · ${t('asFar')}`}`}
              codes={holds.moves}
              onPreview={onPreview}
            />
          )}
        </>
      )}
    </>
  );
}

function Length({ answer: { proven }, children }: { answer: MateAnswer; children: ReactNode }) {
  const t = useTranslations('mates');
  return (
    <p className="m-0">
      <strong>{children}</strong> <span className="soft">{t(proven ? 'shortest' : 'maybe')}</span>
    </p>
  );
}

/** What it means that no mate was found. */
function Nothing({
  answer: { never, proven, nodes },
  done,
}: {
  answer: MateAnswer;
  done: boolean;
}) {
  const t = useTranslations('mates');
  const said = never
    ? t('never')
    : proven
      ? t('within', { plies: MATE_PLIES.shogi })
      : t(done ? 'notFound' : 'soFar', { nodes });
  return <span className="soft">{said}</span>;
}

function Moves({
  title,
  codes,
  onPreview,
}: {
  title: string;
  codes: readonly string[];
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('mates');
  return (
    <div className="ending-moves" onKeyDown={rove}>
      <span>{title}</span>
      {codes.slice(0, MOST_HOLDING).map((code, index) => (
        <MoveHere key={code} code={code} title={null} isStop={index === 0} onPreview={onPreview} />
      ))}
      {codes.length > MOST_HOLDING && (
        <span className="soft">{t('more', { count: codes.length - MOST_HOLDING })}</span>
      )}
    </div>
  );
}

/** A mate against the longest defence. */
function Line({
  answer: { line },
  passed = false,
  onPreview,
}: {
  answer: MateAnswer;
  /** It is the other side's, after a pass. */
  passed?: boolean;
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('mates');
  const store = useDeskStore();
  const place = useCardPlace();
  const mayEdit = useMay('edit');
  const { insert } = useMoveHere(place);
  if (line.length === 0) return null;
  return (
    <p className="m-0" onKeyDown={rove}>
      <LineMoves
        place={place}
        codes={line}
        passed={passed}
        most={line.length}
        onPick={
          passed
            ? undefined
            : (length) =>
                store
                  .getState()
                  .follow(place.node, [...place.way, ...line], place.way.length + length)
        }
        onPreview={onPreview}
      />
      {mayEdit && !passed && (
        <Button
          variant="plain"
          size="sm"
          className="insert"
          aria-label={t('insert')}
          title={t('insert')}
          onClick={() => insert(line)}
        >
          <PlusLg aria-hidden="true" />
        </Button>
      )}
    </p>
  );
}

const SIDES = [0, 1] as const satisfies readonly Side[];

/** How near each side is to an impasse, by both rules. */
function Impasse() {
  const t = useTranslations('impasse');
  const place = useCardPlace();
  const view = useDesk((state) => state.view);
  const sideName = useSideName(view.ruleset);
  const position = place.position as unknown as ShogiPosition;
  const start = view.positionOf(0) as unknown as ShogiPosition;
  const stands = SIDES.map((side) => impasseOf(position, side, creditOf(start, side)));
  /** What is still to be done for a rule: what of its points the pieces outside can bring, and what must be captured. */
  const way = ({ missing, toCapture }: ImpasseNeed): string =>
    missing === 0
      ? t('enough')
      : toCapture === 0
        ? t('missing', { missing })
        : t('toCapture', { missing, toCapture });
  return (
    <table className="impasse">
      <caption>{t('title')}</caption>
      <thead>
        <tr>
          <td />
          {SIDES.map((side) => (
            <th key={side} scope="col">
              {sideName(side)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row">{t('king')}</th>
          {stands.map(({ kingRanks }, side) => (
            <td key={side}>
              {kingRanks === null
                ? '–'
                : kingRanks === 0
                  ? t('inCamp')
                  : t('ranks', { count: kingRanks })}
            </td>
          ))}
        </tr>
        <tr>
          <th scope="row">{t('pieces')}</th>
          {stands.map(({ piecesInCamp }, side) => (
            <td key={side}>{t('of', { count: piecesInCamp, of: PIECES_NEEDED })}</td>
          ))}
        </tr>
        <tr>
          <th scope="row">{t('points')}</th>
          {stands.map(({ points, total }, side) => (
            <td key={side}>{t('ofAll', { points, total })}</td>
          ))}
        </tr>
        {stands[0]!.needs.map(({ rule, result }, at) => (
          <tr key={`${rule} ${result}`}>
            <th scope="row">{t(`rule.${result}${rule}` as 'rule.win27')}</th>
            {stands.map(({ needs }, side) => (
              <td key={side} title={t('asks', { points: needs[at]!.points })}>
                {way(needs[at]!)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
