import type { HowMeasured } from '../../reading/measuring';
import type { AnswerMode } from '../../record/response';
import { formOf, inLetters, seconds } from './numbers';

const answers: Readonly<Record<AnswerMode, string>> = {
  tap: 'Taps',
  spoken: 'Spoken answers',
  build: 'Built answers',
  show: 'Answers shown with fingers or a card',
  write: 'Written answers',
  pad: 'Presses on an answer pad',
  voice: 'Answers heard by the voice key',
};

/** What Vane has learned of how an adult or a device measures, and what it does about it. */
export function measured(one: HowMeasured): string {
  switch (one.what) {
    case 'late': {
      const later = `come about ${seconds(Math.abs(one.ms))} ${one.ms > 0 ? 'later' : 'sooner'}`;
      const where =
        one.by === 'adult' ? 'when you stop the clock than when others do' : 'on this device than on others';
      return `${answers[one.mode]} ${later} ${where}, by ${one.copies} numbers that children only had to copy or repeat. Vane allows for that.`;
    }
    case 'signs': {
      const right = Math.round(10 * one.trust);
      return `You marked ${one.signs} signs of how a child came to an answer. About ${inLetters(right)} in ten fit the times, and Vane gives your signs that much weight.`;
    }
    case 'slips': {
      const slips = Math.round(100 * one.slips);
      return `About ${inLetters(slips)} in a hundred numbers that you enter ${formOf(slips, 'is', 'are')} probably not what the child said, by ${one.copies} numbers that children only had to repeat. Vane allows for that.`;
    }
  }
}
