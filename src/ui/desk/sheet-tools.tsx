'use client';

import { useTranslations } from 'next-intl';
import { useEffect, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Dropdown from 'react-bootstrap/Dropdown';
import { ArrowCounterclockwise, ArrowClockwise } from 'react-bootstrap-icons';
import {
  clearMarks,
  deleteFrom,
  deleteVariation,
  demote,
  makeMainLine,
  promote,
  toggleSymbol,
  variationStart,
  type Edit,
} from '@/core/game/edits';
import { lineFrom, ROOT, type GameTree, type MarkColour, type NodeId } from '@/core/game/tree';
import { signOfNag } from '@/core/review/verdict';
import { rulesetOf } from '@/core/rulesets';
import { MARK_COLOURS } from '../board/arrow';
import { lineText, readLine } from '../move-text';
import { usePreferences, useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { useDesk, useDeskStore, type Writing } from './desk-store';
import { MarkField } from './mark-field';
import { Sign } from './sign';
import { SYMBOLS } from './symbols';
import { shownKey, type ShortcutName } from './shortcuts';
import { ToolMenu } from '../tool-menu';

const COLOURS = Object.keys(MARK_COLOURS) as MarkColour[];

/** What can be written on the sheet at the position on the board. */
export function SheetTools() {
  const t = useTranslations('tools');
  const store = useDeskStore();
  const canUndo = useDesk((state) => state.done.length > 0);
  const canRedo = useDesk((state) => state.undone.length > 0);
  return (
    <div className="sheet-tools" role="toolbar" aria-label={t('label')}>
      <Button
        variant="plain"
        disabled={!canUndo}
        aria-label={t('undo')}
        title={t('keys.undo')}
        onClick={() => store.getState().undo()}
      >
        <ArrowCounterclockwise aria-hidden="true" />
      </Button>
      <Button
        variant="plain"
        disabled={!canRedo}
        aria-label={t('redo')}
        title={t('keys.redo')}
        onClick={() => store.getState().redo()}
      >
        <ArrowClockwise aria-hidden="true" />
      </Button>
      <SymbolMenu />
      <WordsMenu />
      <MarksMenu />
      <LineMenu />
    </div>
  );
}

function SymbolMenu() {
  const t = useTranslations('tools');
  const atStart = useDesk((state) => state.node === ROOT);
  useEffect(() => {
    // a font that came with the first symbol would set the whole page anew
    const signs = SYMBOLS.map(({ nag }) => signOfNag(nag)).join('');
    void document.fonts.load(`1rem ${getComputedStyle(document.body).fontFamily}`, signs);
  }, []);
  return (
    <ToolMenu
      text={t('symbol')}
      title={t('keys.symbol')}
      disabled={atStart}
      className="symbol-menu"
    >
      <SymbolItems />
    </ToolMenu>
  );
}

function SymbolItems() {
  const names = useTranslations('symbols');
  const store = useDeskStore();
  const node = useDesk((state) => state.node);
  const symbols = useDesk((state) => state.view.node(state.node).symbols);
  const sideName = useSideName(useDesk(({ view }) => view.ruleset));
  const [first, second] = [sideName(0), sideName(1)];
  const toggle = (nag: number): void => {
    const { view, edit } = store.getState();
    edit(toggleSymbol(view.record.tree, node, nag));
  };
  return SYMBOLS.map(({ nag, key }) => (
    <Dropdown.Item
      key={nag}
      as="button"
      aria-pressed={symbols?.includes(nag) ?? false}
      className={symbols?.includes(nag) ? 'chosen' : ''}
      onClick={() => toggle(nag)}
    >
      <Sign nag={nag} /> {names(String(nag) as '14', { first, second })}
      {key !== null && <kbd>{key}</kbd>}
    </Dropdown.Item>
  ));
}

const WORDS: readonly { field: Writing['field']; key: ShortcutName }[] = [
  { field: 'comment', key: 'after' },
  { field: 'before', key: 'before' },
  { field: 'lesson', key: 'lesson' },
];

function WordsMenu() {
  const t = useTranslations('tools');
  return (
    <ToolMenu text={t('words')}>
      <WordsItems />
    </ToolMenu>
  );
}

function WordsItems() {
  const t = useTranslations('tools');
  const store = useDeskStore();
  const node = useDesk((state) => state.node);
  return WORDS.filter(({ field }) => node !== ROOT || field !== 'before').map(({ field, key }) => (
    <Dropdown.Item key={field} as="button" onClick={() => store.getState().write({ node, field })}>
      {t(`write.${field}`)} <kbd>{shownKey(key)}</kbd>
    </Dropdown.Item>
  ));
}

function MarksMenu() {
  const t = useTranslations('tools');
  const drawing = useDesk((state) => state.drawing);
  const text = (
    <>
      {drawing !== null && <Swatch colour={drawing} />} {t('marks')}
    </>
  );
  return (
    <ToolMenu
      text={text}
      title={t('keys.draw')}
      active={drawing !== null}
      autoClose="outside"
      className="marks-menu"
    >
      <MarksItems />
    </ToolMenu>
  );
}

function MarksItems() {
  const t = useTranslations('tools');
  const store = useDeskStore();
  const node = useDesk((state) => state.node);
  const drawing = useDesk((state) => state.drawing);
  const marked = useDesk((state) => state.view.node(state.node).marks !== undefined);
  const { markStrength, set } = usePreferences();
  return (
    <>
      <p className="px-3 mb-1 soft">{t('drawIn')}</p>
      {COLOURS.map((colour) => (
        <Dropdown.Item
          key={colour}
          as="button"
          aria-pressed={drawing === colour}
          onClick={() => store.getState().draw(drawing === colour ? null : colour)}
        >
          <Swatch colour={colour} /> {t(`colours.${colour}`)}
          {drawing === colour && <span className="soft"> {t('drawing')}</span>}
        </Dropdown.Item>
      ))}
      <p className="px-3 my-1 small soft">{t('howToDraw')}</p>
      <MarkField />
      <label className="px-3 d-block small">
        {t('strength')}
        <input
          type="range"
          className="form-range"
          min={20}
          max={100}
          step={10}
          value={markStrength}
          onChange={(event) => set({ markStrength: Number(event.target.value) })}
        />
      </label>
      <Dropdown.Divider />
      <Dropdown.Item
        as="button"
        disabled={!marked}
        onClick={() => {
          const { view, edit } = store.getState();
          edit(clearMarks(view.record.tree, node));
        }}
      >
        {t('clearMarks')}
      </Dropdown.Item>
    </>
  );
}

const Swatch = ({ colour }: { colour: MarkColour }): ReactNode => (
  <span className="swatch" style={{ background: MARK_COLOURS[colour] }} aria-hidden="true" />
);

const LINE_EDITS = {
  promote: { act: promote, key: 'up' },
  demote: { act: demote, key: 'down' },
  mainLine: { act: makeMainLine, key: 'mainLine' },
  deleteVariation: { act: deleteVariation, key: 'deleteVariation' },
  deleteFrom: { act: deleteFrom, key: 'deleteFrom' },
} satisfies Record<string, { act(tree: GameTree, node: NodeId): Edit | null; key: ShortcutName }>;

function LineMenu() {
  const t = useTranslations('tools');
  return (
    <ToolMenu text={t('line')}>
      <LineItems />
    </ToolMenu>
  );
}

function LineItems() {
  const t = useTranslations('tools');
  const store = useDeskStore();
  const node = useDesk((state) => state.node);
  const { tree } = useDesk((state) => state.view.record);
  const start = variationStart(tree, node);
  const folded = useDesk((state) => start !== null && state.folded.has(start.id));
  const notation = useShogiNotation();
  const ruleset = rulesetOf(tree.kind);
  // as text, which can be put in again wherever its moves fit
  const codes = lineFrom(tree, node).map(({ move }) => ruleset.code(move));
  const position = store.getState().view.positionOf(node);
  const copied = lineText(readLine(ruleset, position, codes, null, notation));
  const copy = (): void => void navigator.clipboard.writeText(copied);
  return (
    <>
      {(Object.keys(LINE_EDITS) as (keyof typeof LINE_EDITS)[]).map((name) => {
        const { act, key } = LINE_EDITS[name];
        const edit = act(tree, node);
        return (
          <Dropdown.Item
            key={name}
            as="button"
            disabled={edit === null}
            onClick={() => store.getState().edit(edit)}
          >
            {t(`lines.${name}`)} <kbd>{shownKey(key)}</kbd>
          </Dropdown.Item>
        );
      })}
      <Dropdown.Divider />
      <Dropdown.Item as="button" disabled={copied === ''} onClick={copy}>
        {t('lines.copy')}
      </Dropdown.Item>
      <Dropdown.Item
        as="button"
        disabled={start === null}
        onClick={() => start && store.getState().fold(start.id)}
      >
        {t(folded ? 'lines.unfold' : 'lines.fold')}
      </Dropdown.Item>
    </>
  );
}
