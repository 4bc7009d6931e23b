import { ChangeDetectionStrategy, Component, output } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { Doing } from './doing';

@Component({ changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class Place {
  readonly doing = new Doing();
  readonly changed = output<string>();
}

describe('what an adult asked for', () => {
  it('is busy until it is answered, then says so and hands the answer on', () => {
    const { componentInstance: place } = TestBed.createComponent(Place);
    const heard: string[] = [];
    place.changed.subscribe((word) => heard.push(word));
    const act = new Subject<string>();
    place.doing.run(act, 'Done.', (word) => place.changed.emit(word));
    expect([place.doing.busy(), place.doing.told()]).toEqual([true, '']);
    act.next('kept');
    expect([place.doing.busy(), place.doing.told(), heard]).toEqual([false, 'Done.', ['kept']]);
  });

  it('goes on when its place is left, and tells that place nothing more', () => {
    const fixture = TestBed.createComponent(Place);
    const place = fixture.componentInstance;
    const act = new Subject<string>();
    place.doing.run(act, '', (word) => place.changed.emit(word));
    fixture.destroy();
    expect(act.observed).toBe(true);
    // An output of a place that is gone warns on the console, which fails a test.
    act.next('kept');
  });

  it('says what went wrong', () => {
    const { doing } = TestBed.createComponent(Place).componentInstance;
    const act = new Subject<string>();
    doing.run(act);
    act.error(new Error('the jetty is under water'));
    expect(doing.busy()).toBe(false);
    expect(doing.trouble()).not.toBe('');
  });
});
