'use client';

import { useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { changePlayer, type Player } from '@/contract/players';
import { call, succeeds } from '../call';

/** Changes a player, and says where that fails. */
function useChange() {
  const router = useRouter();
  const [failed, setFailed] = useState(false);
  const change = async (id: number, body: Parameters<typeof changePlayer.body.parse>[0]) => {
    const asked = changePlayer.body.parse(body);
    const isDone = await succeeds(call(changePlayer, { id, body: asked }));
    setFailed(!isDone);
    router.refresh();
  };
  return { failed, change };
}

function Failed() {
  const t = useTranslations('players');
  return (
    <span role="alert" className="ms-2">
      {t('failed')}
    </span>
  );
}

/** Asks which of the players is the reader. */
export function WhoIsMe({
  players,
}: {
  players: readonly Pick<Player, 'id' | 'name' | 'games'>[];
}) {
  const t = useTranslations('players');
  const { failed, change } = useChange();
  return (
    <section className="line-banner flex-wrap text-break" aria-label={t('whoTitle')}>
      <span>{t('who')}</span>
      {players.map(({ id, name, games }) => (
        <Button
          key={id}
          variant="plain"
          size="sm"
          onClick={() => void change(id, { isSelf: true })}
        >
          {name} <span className="soft">{t('games', { games })}</span>
        </Button>
      ))}
      {failed && <Failed />}
    </section>
  );
}

/** Says that some players are one person. */
export function JoinButton({ into, others }: { into: Player; others: readonly Player[] }) {
  const t = useTranslations('players');
  const { failed, change } = useChange();
  const join = others.map(({ id }) => id);
  return (
    <>
      <Button variant="plain" size="sm" onClick={() => void change(into.id, { join })}>
        {t('join')}
      </Button>
      {failed && <Failed />}
    </>
  );
}

/** All that can be said of who a player is. */
export function PlayerTools({ player, others }: { player: Player; others: readonly Player[] }) {
  const t = useTranslations('players');
  const { failed, change } = useChange();
  const [joined, setJoined] = useState('');
  const other = others.find(({ name }) => name === joined.trim());
  return (
    <section className="quiet-box" aria-labelledby="who">
      <h2 id="who">{t('whoThisIs')}</h2>
      <Form.Check
        id="is-self"
        label={t('isMe')}
        checked={player.isSelf}
        onChange={({ target }) => void change(player.id, { isSelf: target.checked })}
      />
      <h3 className="h6 mt-2">{t('names')}</h3>
      <ul className="list-unstyled m-0">
        {player.names.map((name) => (
          <li key={name} className="text-break">
            {name}{' '}
            {player.names.length > 1 && (
              <Button
                variant="plain"
                size="sm"
                onClick={() => void change(player.id, { part: name })}
              >
                {t('part')}
              </Button>
            )}{' '}
            {player.names.length > 1 && name !== player.name && (
              <Button variant="plain" size="sm" onClick={() => void change(player.id, { name })}>
                {t('showAs')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <form
        className="d-flex gap-2 align-items-end mt-2 flex-wrap"
        onSubmit={(event) => {
          event.preventDefault();
          if (other) void change(player.id, { join: [other.id] }).then(() => setJoined(''));
        }}
      >
        <label>
          {t('alsoKnown')}
          <Form.Control
            value={joined}
            list="other-players"
            onChange={({ target }) => setJoined(target.value)}
          />
        </label>
        <datalist id="other-players">
          {others.map(({ id, name }) => (
            <option key={id} value={name} />
          ))}
        </datalist>
        <Button type="submit" variant="plain" disabled={!other}>
          {t('join')}
        </Button>
      </form>
      {failed && <Failed />}
    </section>
  );
}
