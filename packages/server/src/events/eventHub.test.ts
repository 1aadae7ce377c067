import { describe, expect, it } from 'vitest';
import { createEventHub } from './eventHub.ts';

describe('what happens in a job', () => {
  it('is told to those who watch that job, until they stop', () => {
    const hub = createEventHub();
    const heard: string[] = [];
    const stop = hub.watch('one', () => void heard.push('one'));
    hub.watch('other', () => void heard.push('other'));
    const event = { type: 'picture', id: 'p' } as never;
    hub.publish('one', event);
    stop();
    hub.publish('one', event);
    expect(heard).toEqual(['one']);
  });

  it('ends for everyone when the server stops, and at once for those who come later', () => {
    const hub = createEventHub();
    const left: string[] = [];
    hub.onClose(() => void left.push('early'));
    const stay = hub.onClose(() => void left.push('gone before'));
    stay();
    hub.close();
    expect(left).toEqual(['early']);
    hub.onClose(() => void left.push('late'));
    expect(left).toEqual(['early', 'late']);
  });
});
