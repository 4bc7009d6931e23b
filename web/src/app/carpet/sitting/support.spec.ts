import { dealTurns, type Support } from '@vane/core';
import { asked, playSitting, SETTINGS, written } from '../../testing/played';

const odo = (support: readonly Support[]) => ({ id: 'odo', nickname: 'Odo', support });
const ivo = { id: 'ivo', nickname: 'Ivo' };

describe('a child whose questions are put differently', () => {
  it('sees a picture that stays, and is recorded as shown, where others are flashed and speak', async () => {
    const asks = [asked('show:4:five')];
    const children = [odo(['no-flash', 'pointing']), ivo];
    const { sitting, keeper, frames, shown, stage } = playSitting(
      asks,
      { answerMode: 'spoken' },
      { children, turns: dealTurns(children.map(({ id }) => ({ child: id, asks }))) },
    );
    sitting.goOn(0);
    shown();
    expect(sitting.mode()).toBe('show');
    // Twice as long as a flash, and the picture is still there.
    for (let i = 0; i < 60; i++) frames.play();
    expect(stage.dataset['phase']).toBe('show');
    sitting.goOn(2000);
    sitting.answer('4', 3000);
    sitting.next();
    expect(sitting.child().id).toBe('ivo');
    expect(sitting.mode()).toBe('spoken');
    frames.until(() => stage.dataset['phase'] === 'mask' || stage.dataset['phase'] === 'answer');
    sitting.goOn(9000);
    sitting.answer('4', 9500);
    await written();
    expect(keeper.last().map((row) => [row.child, row.answer_mode, (row.exposure_ms ?? 0) > 900])).toEqual([
      ['odo', 'show', true],
      ['ivo', 'spoken', false],
    ]);
  });

  it('has twice the time to get ready', () => {
    const waits: number[] = [];
    const asks = [asked('show:4:five'), asked('show:3:five')];
    const children = [odo(['more-time'])];
    playSitting(asks, SETTINGS, { children, turns: dealTurns([{ child: 'odo', asks }]) }, 60, (ms) => {
      waits.push(ms);
      return () => undefined;
    });
    // The display is watched for the last half second of it.
    expect(waits).toEqual([2 * (SETTINGS.readyMs ?? 0) - 500]);
  });
});
