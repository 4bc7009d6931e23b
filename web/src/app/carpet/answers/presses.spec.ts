import { hearPresses } from './presses';

/** jsdom has no PointerEvent: what of it is looked at here. */
class Pointer extends MouseEvent {
  readonly isPrimary: boolean;
  constructor(type: string, { isPrimary = true, ...more }: PointerEventInit = {}) {
    super(type, { bubbles: true, ...more });
    this.isPrimary = isPrimary;
  }
}

/** A press, as the browser hands it on: stamped when the finger came down, however late it is heard. */
const press = (type: 'pointerdown' | 'click', more: PointerEventInit = {}): Event =>
  new Pointer(type, { detail: type === 'click' ? 1 : 0, ...more });

describe('presses', () => {
  const heard: [string, number][] = [];
  let element: HTMLElement;
  const listen = (name: string | null): AbortController => {
    const end = new AbortController();
    hearPresses(element, name, end.signal, (value, at) => heard.push([value, at]));
    return end;
  };
  beforeAll(() => Object.assign(globalThis, { PointerEvent: Pointer }));
  afterAll(() => Reflect.deleteProperty(globalThis, 'PointerEvent'));
  beforeEach(() => {
    heard.length = 0;
    element = document.createElement('div');
    element.innerHTML = '<button data-number="3"><b>three</b></button><p>no number</p>';
  });

  it('are timed by their own stamp, not by when they are handled', () => {
    listen('number');
    // As a press arrives that had to wait for a busy page.
    const event = Object.defineProperty(press('pointerdown'), 'timeStamp', { value: 1234.5 });
    element.querySelector('b')!.dispatchEvent(event);
    expect(heard).toEqual([['3', 1234.5]]);
  });

  it('count when the finger comes down, once; a click counts only without a pointer', () => {
    listen('number');
    const button = element.querySelector('button')!;
    button.dispatchEvent(press('pointerdown'));
    button.dispatchEvent(press('click'));
    button.dispatchEvent(press('pointerdown', { isPrimary: false }));
    expect(heard).toHaveLength(1);
    button.dispatchEvent(press('click', { detail: 0 }));
    expect(heard).toHaveLength(2);
  });

  it('elsewhere are left alone, unless all are wanted; and nothing is heard afterwards', () => {
    const end = listen('number');
    element.querySelector('p')!.dispatchEvent(press('pointerdown'));
    expect(heard).toEqual([]);
    end.abort();
    element.querySelector('button')!.dispatchEvent(press('pointerdown'));
    expect(heard).toEqual([]);
    listen(null);
    element.querySelector('p')!.dispatchEvent(press('pointerdown'));
    expect(heard.map(([value]) => value)).toEqual(['']);
  });
});
