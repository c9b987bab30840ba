'use client';

import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import { listDoubts, type Doubt, type WhichPreparation } from '@/contract/preparation';
import { VERDICT_NAG } from '@/core/review/verdict';
import { rulesetOf } from '@/core/rulesets';
import { gameHref } from '../desk-href';
import { call } from '../call';
import { Sign } from '../desk/sign';
import { lineText, numberText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';

/** Prepared moves that the engine does not like any more. */
export function DoubtList({ which }: { which: WhichPreparation }) {
  const t = useTranslations('preparation');
  const { data: doubts } = useQuery({
    queryKey: ['preparation', 'doubts', which.kind, which.side],
    queryFn: () => call(listDoubts, { query: which }),
  });
  return (
    <section className="quiet-box" aria-labelledby="doubts">
      <h2 id="doubts">{t('doubts')}</h2>
      {doubts?.length === 0 && <p className="soft m-0">{t('noDoubts')}</p>}
      <ul className="list-unstyled m-0">
        {doubts?.map((doubt) => (
          <DoubtLine key={`${doubt.at.sheet} ${doubt.at.node}`} kind={which.kind} doubt={doubt} />
        ))}
      </ul>
    </section>
  );
}

function DoubtLine({
  kind,
  doubt: { at, position, move, verdict, loss, better },
}: {
  kind: WhichPreparation['kind'];
  doubt: Doubt;
}) {
  const t = useTranslations('preparation');
  const notation = useShogiNotation();
  const ruleset = rulesetOf(kind);
  const before = ruleset.start(position);
  const [read] = readLine(ruleset, before, [move], null, notation);
  return (
    <li>
      <Link href={gameHref(at.sheet, at.node)} prefetch={false}>
        {numberText(ruleset, before)} {read?.text ?? move}
        {verdict !== 'none' && <Sign nag={VERDICT_NAG[verdict]} />}
      </Link>{' '}
      <span className="soft">
        {t('doubt', {
          loss: loss.toFixed(0),
          better: lineText(readLine(ruleset, before, better, null, notation)),
        })}
      </span>
    </li>
  );
}
