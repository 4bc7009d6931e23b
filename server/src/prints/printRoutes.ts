import type { PrintRequest } from '@vane/contract';
import { cardsOf, drawnPages, PRINTS, svgCard, type Card } from '@vane/core';
import { strToU8, zipSync } from 'fflate';
import { carpetOf } from '../classes/classRoutes';
import type { Readings } from '../judging/readings';
import { RequestProblem } from '../problems/problem';
import { audit } from '../request/audit';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import type { Print } from '../threads/pdf';
import { sayFor } from '../words/sayFor';
import { WORD_PRINTS, type Making } from './wordPrints';

/** As many cards as anybody cuts out; more than that is a mistake, and would keep the printer's thread for minutes. */
const MOST_CARDS = 300;

/** The cards of a print, as long as they are not too many. */
function deckOf(wish: PrintRequest, ways: Making['ways']): Card[] {
  const cards = cardsOf(wish, ways);
  if (cards.length > MOST_CARDS)
    throw new RequestProblem('too-many-cards', { detail: `${MOST_CARDS} cards at a time` });
  return cards;
}

/** A print's own part: its words, or its drawn pages. */
async function bodyOf(making: Making): Promise<Pick<Print, 'title' | 'lying' | 'body'>> {
  const { wish, ways } = making;
  const print = WORD_PRINTS[wish.what];
  if (print) {
    const { title, blocks } = await print.words(making);
    return { title, lying: print.lying ?? false, body: { blocks } };
  }
  deckOf(wish, ways);
  const pages = drawnPages(wish, ways);
  if (pages.length === 0) throw new RequestProblem('nothing-to-print');
  return { title: ways.say.prints.names[wish.what].title, lying: wish.what === 'mats', body: { pages } };
}

/** What is printed for a class: cards, mats and sheets; the home sheet and the hand-over of a child; sheets for helpers. */
export function printRoutes(deps: Deps, readings: Readings): ContractRoutes {
  return new ContractRoutes()
    .on('POST /classes/:classId/prints', async (c, { body: wish }) => {
      const { em, classKey: key, adult } = c.var;
      const say = sayFor(c);
      const ways = { ...(await carpetOf(em, key)), say };
      const own = await bodyOf({ em: await deps.database.readers.em(), key, wish, ways, readings, now: deps.now() });
      const about = WORD_PRINTS[wish.what]?.about ?? null;
      const said = `printed: ${wish.what}${wish.support ? ', with support' : ''}`;
      if (about !== null) await audit(em, adult, deps.now(), 'exported', said, about === 'child' ? wish.child : null);
      const { caution } = PRINTS[wish.what];
      const pdf = await deps.printer({
        ...own,
        paper: wish.paper,
        foot: caution === null ? '' : say.cautions[caution],
        care: { words: say.prints.sheet.care, link: `${c.var.homeUrl}/before-use` },
      });
      return c.body(pdf as Uint8Array<ArrayBuffer>, 200, { 'content-type': 'application/pdf' });
    })
    .on('POST /classes/:classId/cards.zip', async (c, { body }) => {
      const carpet = await carpetOf(c.var.em, c.var.classKey);
      const cards = deckOf(body, { ...carpet, say: sayFor(c) });
      if (cards.length === 0) throw new RequestProblem('nothing-to-print');
      const files = cards.flatMap(({ name, front, back }): [string, Uint8Array][] => [
        [`${name}.svg`, strToU8(svgCard(front))],
        [`${name}-back.svg`, strToU8(svgCard(back))],
      ]);
      return c.body(zipSync(Object.fromEntries<Uint8Array>(files)), 200, { 'content-type': 'application/zip' });
    });
}
