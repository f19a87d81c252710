import { beforeEach, describe, expect, it } from 'vitest';
import { inPlace, toRefresh } from './live';

describe('what is asked for anew', () => {
  beforeEach(() => inPlace.clear());

  it('is all that somebody else changed', () => {
    expect(toRefresh({ topics: ['inspection:I-1', 'bench'], acts: ['a'] })).toEqual(['inspection:I-1', 'bench']);
  });

  it('is no sheet whose answers are in place, once', () => {
    inPlace.add('a');
    expect(toRefresh({ topics: ['inspection:I-1', 'bench'], acts: ['a'] })).toEqual(['bench']);
    expect(toRefresh({ topics: ['inspection:I-1'], acts: ['a'] })).toEqual(['inspection:I-1']);
  });

  it('is the sheet where another act stands beside an own one, and where no act is named', () => {
    inPlace.add('a');
    expect(toRefresh({ topics: ['inspection:I-1'], acts: ['b', 'a'] })).toEqual(['inspection:I-1']);
    expect(toRefresh({ topics: ['inspection:I-1'], acts: [] })).toEqual(['inspection:I-1']);
  });
});
