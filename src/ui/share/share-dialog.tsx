'use client';

import { useMemo, useRef, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { lineFrom } from '@/core/game/tree';
import { Dialog } from '../dialog/dialog';
import { GameBoard } from '../board/game-board';
import { readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useDesk, useDeskStore } from '../desk/desk-store';
import { boardsAsSvg, download, svgAsPng } from './board-image';

const SIZES = [320, 640, 1280];
const LONGEST_RUN = 40;

/** The board as a picture to take along, and the line that follows as a run. */
export function ShareDialog({ onClose }: { onClose(): void }) {
  const t = useTranslations('share');
  const store = useDeskStore();
  const notation = useShogiNotation();
  const flipped = useDesk((state) => state.flipped);
  const [size, setSize] = useState(SIZES[1]!);
  const [failed, setFailed] = useState(false);
  const frames = useRef<HTMLDivElement>(null);
  const run = useMemo(() => {
    const { view, place, excursion } = store.getState();
    const { ruleset, record } = view;
    const here = place();
    const codes = excursion
      ? excursion.codes.slice(here.way.length)
      : lineFrom(record.tree, here.node).map(({ move }) => ruleset.code(move));
    const line = readLine(ruleset, here.position, codes.slice(0, LONGEST_RUN), here.move, notation);
    return [{ position: here.position, move: here.move, text: '' }, ...line];
  }, [store, notation]);
  const { ruleset } = store.getState().view;

  const make = (
    what: (boards: readonly Element[]) => Promise<[name: string, blob: Blob]>,
  ): void => {
    setFailed(false);
    const boards = [...frames.current!.querySelectorAll('.board')];
    what(boards).then(
      ([name, blob]) => download(name, blob),
      () => setFailed(true),
    );
  };
  const asSvg = async (boards: readonly Element[]): Promise<Blob> =>
    new Blob([await boardsAsSvg(boards, size)], { type: 'image/svg+xml' });
  return (
    <Dialog size="lg" title={t('title')} onClose={onClose}>
      <div className="share-frames" ref={frames}>
        {run.map(({ position, move, text }, index) => (
          <div key={index} className={index === 0 ? 'share-board' : 'share-hidden'}>
            <GameBoard
              kind={ruleset.kind}
              position={position}
              flipped={flipped}
              lastMove={move}
              label={index === 0 ? t('preview') : text}
            />
          </div>
        ))}
      </div>
      <label className="d-flex align-items-center gap-2 my-2">
        {t('size')}
        <Form.Select
          size="sm"
          className="w-auto"
          value={size}
          onChange={(event) => setSize(Number(event.target.value))}
        >
          {SIZES.map((pixels) => (
            <option key={pixels} value={pixels}>
              {t('pixels', { pixels })}
            </option>
          ))}
        </Form.Select>
      </label>
      {failed && <p role="alert">{t('failed')}</p>}
      <div className="d-flex flex-wrap gap-2">
        <Button
          variant="plain"
          onClick={() => make(async ([board]) => ['position.svg', await asSvg([board!])])}
        >
          {t('svg')}
        </Button>
        <Button
          variant="plain"
          onClick={() =>
            make(async ([board]) => [
              'position.png',
              await svgAsPng(await boardsAsSvg([board!], size)),
            ])
          }
        >
          {t('png')}
        </Button>
        <Button
          variant="plain"
          disabled={run.length < 2}
          onClick={() => make(async (boards) => ['line.svg', await asSvg(boards)])}
        >
          {t('run', { moves: run.length - 1 })}
        </Button>
        <Button variant="plain" className="ms-auto" onClick={onClose}>
          {t('close')}
        </Button>
      </div>
    </Dialog>
  );
}
