import { describe, expect, test } from 'vitest';
import { amountOf, amountTrouble } from './amount';

describe('a number typed in a form', () => {
  test.each([
    ['1500', 1500],
    ['1,5', 1.5],
    ['1.5', 1.5],
    [' 13 ', 13],
    ['0,125', 0.125],
    ['1,50', 1.5],
    ['1.500', 1.5],
    ['-0,5', -0.5],
    ['', 0],
  ])('%s is read', (text, number) => {
    expect(amountOf(text)).toBe(number);
    expect(amountTrouble(text)).toBeNull();
  });

  test.each(['1,500', '12,000', '-1,500', ' 2,200 '])('%s could be two numbers and is none', (text) => {
    expect(amountOf(text)).toBeNaN();
    expect(amountTrouble(text)).toMatch(/could be .* or .*; write it with a point/);
  });

  test.each(['x', '1,5,0', '2200 W', '1..5'])('%s is no number', (text) => {
    expect(amountOf(text)).toBeNaN();
    expect(amountTrouble(text)).toBe('A number, please.');
  });
});
