import { jest } from '@jest/globals';
import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { ClassReadings } from '@vane/contract';
import { firstValueFrom } from 'rxjs';
import { configure, ME } from '../testing/page';
import { addressOf, Api } from './api';

describe('what the page asks of the server', () => {
  it('goes to the address of the route, with its places, its query and its body', () => {
    configure();
    const [api, http] = [TestBed.inject(Api), TestBed.inject(HttpTestingController)];
    api.ask('GET /classes/:classId/log', { classId: 'curlew', query: { offset: 200 } }).subscribe();
    const read = http.expectOne('/api/classes/curlew/log?offset=200').request;
    // A browser refuses to send a question with a body.
    expect([read.method, read.body]).toEqual(['GET', null]);
    api.ask('POST /me/care-read').subscribe();
    expect(http.expectOne('/api/me/care-read').request.body).toEqual({});
    api.ask('PUT /school/keep', { body: { keepMonths: 12 } }).subscribe();
    expect(http.expectOne('/api/school/keep').request.body).toEqual({ keepMonths: 12 });
  });

  it('never leaves its path, whatever stands in a place', () => {
    expect(addressOf('GET /join/:token', { token: '../me?x' })).toBe('/api/join/..%2Fme%3Fx');
    expect(addressOf('GET /classes/:classId/statements/:form{json|jsonl}', { classId: 'c', form: 'jsonl' })).toBe(
      '/api/classes/c/statements/jsonl',
    );
  });

  it('is an error where an answer is otherwise than described, and names the place', async () => {
    configure();
    const said = jest.spyOn(console, 'error').mockReturnValue();
    const answer = firstValueFrom(TestBed.inject(Api).ask('GET /me'));
    TestBed.inject(HttpTestingController)
      .expectOne('/api/me')
      .flush({ ...ME, adult: { ...ME.adult, passwordHash: 'secret' } });
    await expect(answer).rejects.toThrow(/GET \/me answers otherwise than described: .*passwordHash[^]*at adult/);
    expect(said).toHaveBeenCalledTimes(1);
    said.mockRestore();
  });

  it('waits a little for readings that are just being judged, and then tells what is there', () => {
    jest.useFakeTimers();
    configure();
    const http = TestBed.inject(HttpTestingController);
    const asked = (judging: ClassReadings['judging']): void =>
      http
        .expectOne('/api/classes/curlew/readings')
        .flush({ judgedAt: null, modelVersion: '', judging, readings: [], asked: [] });
    const heard: string[] = [];
    TestBed.inject(Api)
      .readings('curlew')
      .subscribe(({ judging }) => heard.push(judging));
    asked('under-way');
    expect(heard).toEqual([]);
    jest.advanceTimersByTime(500);
    asked('done');
    expect(heard).toEqual(['done']);

    TestBed.inject(Api)
      .readings('curlew')
      .subscribe(({ judging }) => heard.push(judging));
    let times = 0;
    for (; heard.length === 1; times++) {
      asked('under-way');
      jest.advanceTimersByTime(500);
    }
    expect(heard).toEqual(['done', 'under-way']);
    expect(times).toBeGreaterThan(5);
    http.expectNone('/api/classes/curlew/readings');
    jest.useRealTimers();
  });
});
