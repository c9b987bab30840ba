import { getTranslations } from 'next-intl/server';
import type { LibraryStrip } from '@/server/library';
import { ScoreText } from '../players/score-text';

/** On fewer games a mean is a hint. */
const FEW = 10;

/** What the games of a filter come to, in figures. */
export async function Strip({ strip }: { strip: LibraryStrip }) {
  const t = await getTranslations('library.strip');
  const { games, score, accuracy, swept, annotated } = strip;
  return (
    <dl className="library-strip">
      <div>
        <dt>{t('score')}</dt>
        <dd>
          <ScoreText score={score} />
        </dd>
      </div>
      <div>
        <dt>{t('accuracy')}</dt>
        <dd className={accuracy && accuracy.games >= FEW ? undefined : 'soft'}>
          {accuracy === null ? (
            t('none')
          ) : (
            <>
              <strong>{accuracy.mean.toFixed(1)}</strong>{' '}
              {accuracy.error !== null && (
                <span className="soft">{`± ${accuracy.error.toFixed(1)} `}</span>
              )}
              {t('of', { games: accuracy.games })}
            </>
          )}
        </dd>
      </div>
      <div>
        <dt>{t('swept')}</dt>
        <dd>{t('ofAll', { count: swept, games })}</dd>
      </div>
      <div>
        <dt>{t('annotated')}</dt>
        <dd>{t('ofAll', { count: annotated, games })}</dd>
      </div>
    </dl>
  );
}
