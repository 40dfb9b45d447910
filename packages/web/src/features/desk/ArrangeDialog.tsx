import { api, DESK_CARDS, type Desk, type DeskCard } from '@kanonos/contract';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { CARD_NAMES, canBeHidden, isTaskCard, moved } from './cards.ts';
import { wording } from './wording.ts';

/** Arranges the cards of the Desk: their order, and those that one does not want to see. */
export const ArrangeDialog = ({ desk, close }: { desk: Desk; close: () => void }) => {
  const [tasks, setTasks] = useState(desk.cards.filter(isTaskCard));
  const [beside, setBeside] = useState(desk.cards.filter((card) => !isTaskCard(card)));
  const [hidden, setHidden] = useState<readonly DeskCard[]>(desk.hiddenCards);
  const command = useCommand(api.tasks.arrange, wording.cardsSaved, close);
  const show = (card: DeskCard, isShown: boolean) =>
    setHidden(isShown ? hidden.filter((one) => one !== card) : [...hidden, card]);
  const reset = () => {
    setTasks(DESK_CARDS.filter(isTaskCard));
    setBeside(DESK_CARDS.filter((card) => !isTaskCard(card)));
    setHidden([]);
  };
  return (
    <FormDialog
      title={wording.editTheCards}
      about={<p>{wording.cardsWithoutContentAreNotShown}</p>}
      columns
      command={command}
      button={wording.save}
      more={
        <button type="button" className="btn" onClick={reset}>
          {wording.restoreTheUsualOrder}
        </button>
      }
      onSubmit={() => command.mutate({ body: { cards: [...tasks, ...beside], hidden: [...hidden] } })}
      onClose={close}
    >
      <Cards title={wording.tasks} cards={tasks} order={setTasks} hidden={hidden} show={show} />
      <Cards title={wording.besideTheTasks} cards={beside} order={setBeside} hidden={hidden} show={show} />
    </FormDialog>
  );
};

const Cards = ({
  title,
  cards,
  order,
  hidden,
  show,
}: {
  title: string;
  cards: readonly DeskCard[];
  order: (cards: DeskCard[]) => void;
  hidden: readonly DeskCard[];
  show: (card: DeskCard, isShown: boolean) => void;
}) => (
  <fieldset className="min-w-0">
    <legend className="cap mb-1">{title}</legend>
    <ol className="border border-line">
      {cards.map((card, i) => (
        <li key={card} className="flex min-h-8 items-center gap-1 border-b border-line-2 px-2 last:border-0">
          <label className="flex min-h-6 min-w-0 flex-1 items-center gap-2">
            <input
              type="checkbox"
              className="accent-petrol"
              checked={!hidden.includes(card)}
              disabled={!canBeHidden(card)}
              onChange={(event) => show(card, event.target.checked)}
            />
            <span className="truncate">{CARD_NAMES[card]}</span>
          </label>
          <IconButton
            label={wording.moveUp(CARD_NAMES[card])}
            disabled={i === 0}
            onClick={() => order(moved(cards, i, -1))}
          >
            <ArrowUp size={14} aria-hidden />
          </IconButton>
          <IconButton
            label={wording.moveDown(CARD_NAMES[card])}
            disabled={i === cards.length - 1}
            onClick={() => order(moved(cards, i, 1))}
          >
            <ArrowDown size={14} aria-hidden />
          </IconButton>
        </li>
      ))}
    </ol>
  </fieldset>
);
