'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { X } from 'react-bootstrap-icons';
import {
  listEngines,
  listStudies,
  removeStudy,
  startStudy,
  type OfferedEngine,
  type Study,
} from '@/contract/studies';
import { clockText, scoreText } from '../format';
import { call, Refused, succeeds } from '../call';
import { usePreferences } from '../preferences';
import { refreshQueries } from '../refresh-queries';
import { useServerEvents } from '../server-events';
import { useSideName } from '../side-name';
import { useDeskShortcuts } from './shortcuts';
import { insertFrom, type BoardPlace } from './board-place';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useDesk, useDeskStore, useMay } from './desk-store';
import { keepGame } from './keep-game';
import { LineCells, useLinePreview, type Preview } from './line-moves';

const SECONDS = [5, 15, 60, 300];
const REFRESH_MS = 10_000;

/** Why a study was refused, by the answer's status. */
const PROBLEMS = { 422: 'nothing', 429: 'tooMany' } as const;

/** Much deeper searches of what is on the board, by our engine or others of the server, side by side. */
export function StudiesCard() {
  const t = useTranslations('studies');
  const gameId = useDesk((state) => state.gameId);
  const client = useQueryClient();
  const store = useDeskStore();
  const place = useCardPlace();
  const kind = useDesk(({ view }) => view.ruleset.kind);
  const lines = usePreferences((state) => state.lineCount);
  const { card, onPreview, preview } = useLinePreview<HTMLDivElement>();
  const mayEdit = useMay('edit');
  const [problem, setProblem] = useState<string | null>(null);
  const { data: studies } = useQuery({
    queryKey: ['studies', gameId],
    queryFn: () => call(listStudies, { id: gameId! }),
    enabled: gameId !== null,
  });
  const { data: engines } = useQuery({
    queryKey: ['engines', kind],
    queryFn: () => call(listEngines, { query: { kind } }),
    enabled: mayEdit,
    // one that can't be used may be mended meanwhile
    refetchInterval: ({ state }) => state.data?.some(({ problem }) => problem) && REFRESH_MS,
  });
  const refresh = (): void => void refreshQueries(client, ['studies']);
  useServerEvents((event) => {
    if (event.type === 'study' && event.gameId === gameId) refresh();
  }, refresh);

  const ask = async (engine: string | null, seconds?: number): Promise<void> => {
    setProblem(null);
    const { node, way } = store.getState().place();
    const asked = { node, way, engine, lines, seconds };
    const id = await keepGame(store);
    const refused = (error: unknown): void => {
      const status = error instanceof Refused ? error.status : 0;
      setProblem(t(PROBLEMS[status as keyof typeof PROBLEMS] ?? 'notAsked'));
    };
    if (id === null) refused(null);
    else await call(startStudy, { id, body: asked }).catch(refused);
    refresh();
  };
  useDeskShortcuts({ doubt: () => void (mayEdit && ask(null)) });
  const here = studies?.filter(({ position }) => position.moves.join(' ') === place.name) ?? [];
  return (
    <DeskCard
      name="studies"
      title={t('title')}
      className="studies-card"
      bodyRef={card}
      spreads
      headline={here[0] ? <StudyHeadline study={here[0]} place={place} /> : t('headlineNone')}
      tools={
        mayEdit && (
          <Button variant="plain" title={t('doubtTitle')} onClick={() => void ask(null)}>
            {t('doubt')}
          </Button>
        )
      }
    >
      {here.length === 0 && <p className="soft m-0">{t('empty')}</p>}
      {problem && <p role="alert">{problem}</p>}
      <div className="studies">
        {here.map((study) => (
          <StudyColumn key={study.id} study={study} place={place} onPreview={onPreview} />
        ))}
      </div>
      {engines?.map((engine) => (
        <ExternalEngine key={engine.name} engine={engine} onAsk={ask} />
      ))}
      {preview}
    </DeskCard>
  );
}

/** How far the first of them has come. */
function StudyHeadline({ study: { state, answer }, place }: { study: Study; place: BoardPlace }) {
  const t = useTranslations('studies');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const [best] = answer?.lines ?? [];
  if (!answer || !best) return t(`states.${state}`);
  const score = scoreText(best.score, ruleset.side(place.position), ruleset);
  return t('headline', { state: t(`states.${state}`), score, depth: answer.depth });
}

/** What one engine has found of the position. */
function StudyColumn({
  study: { id, engine, state, answer, error },
  place,
  onPreview,
}: {
  study: Study;
  place: BoardPlace;
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('studies');
  const store = useDeskStore();
  const mayEdit = useMay('edit');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const sideName = useSideName(ruleset);
  const side = ruleset.side(place.position);
  const name = engine ?? t('own');
  const insert = (moves: readonly string[], length: number): void => {
    const { view, edit } = store.getState();
    edit(insertFrom(view.record, place, moves.slice(0, length)));
    onPreview(null);
  };
  return (
    <article aria-label={name}>
      <h3>
        {name}{' '}
        {mayEdit && (
          <Button
            variant="plain"
            size="sm"
            aria-label={t(state === 'done' || state === 'failed' ? 'remove' : 'stop', { name })}
            onClick={() => void succeeds(call(removeStudy, { id }))}
          >
            <X aria-hidden="true" />
          </Button>
        )}
      </h3>
      <p className="soft small m-0" role="status">
        {t(`states.${state}`)}
        {answer &&
          answer.depth > 0 &&
          ` · ${t('found', {
            depth: answer.depth,
            nodes: (answer.nodes / 1e6).toFixed(1),
            time: clockText(Math.round(answer.milliseconds / 1000) * 1000),
            side: sideName(side),
          })}`}
      </p>
      {error && <p className="small text-break m-0">{error}</p>}
      <table className="lines-table">
        <tbody>
          {answer?.lines.map((line) => (
            <tr key={line.moves[0]}>
              <LineCells
                line={line}
                place={place}
                onPick={(length) => insert(line.moves, length)}
                onPreview={onPreview}
              />
            </tr>
          ))}
        </tbody>
      </table>
    </article>
  );
}

/** An engine of the server's file: asked here, with its options to be read. */
function ExternalEngine({
  engine: { name, options, set, problem },
  onAsk,
}: {
  engine: OfferedEngine;
  onAsk(engine: string, seconds: number): Promise<void>;
}) {
  const t = useTranslations('studies');
  const [seconds, setSeconds] = useState(SECONDS[1]!);
  const valueOf = (option: string, usual: string | null): string =>
    Object.entries(set).find(([key]) => key.toLowerCase() === option.toLowerCase())?.[1] ??
    usual ??
    '';
  return (
    <div className="mt-2">
      <div className="d-flex align-items-center gap-2">
        <Button
          variant="plain"
          disabled={problem !== null}
          onClick={() => void onAsk(name, seconds)}
        >
          {t('ask', { name })}
        </Button>
        <Form.Select
          size="sm"
          className="w-auto"
          aria-label={t('seconds', { name })}
          value={seconds}
          onChange={(event) => setSeconds(Number(event.target.value))}
        >
          {SECONDS.map((value) => (
            <option key={value} value={value}>
              {clockText(value * 1000)}
            </option>
          ))}
        </Form.Select>
      </div>
      {problem && (
        <p className="small text-break m-0" role="alert">
          {t('problem', { problem })}
        </p>
      )}
      {options.length > 0 && (
        <details className="small">
          <summary className="soft">{t('options', { count: options.length })}</summary>
          <ul className="list-unstyled m-0">
            {options.map((option) => (
              <li key={option.name}>
                {option.name}: <strong>{valueOf(option.name, option.default) || '–'}</strong>{' '}
                <span className="soft">
                  {option.min !== null && `${option.min}–${option.max ?? ''}`}
                  {option.choices.join(', ')}
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
