import { firstValueFrom } from 'rxjs';
import { chosenText } from './chosen-text';

const field = (...files: File[]) => ({ files, value: 'C:\\fakepath\\x' }) as unknown as HTMLInputElement;

it('reads the chosen file as text, and lets the same be chosen again', async () => {
  const chosen = field(new File(['day,amount'], 'bank.csv'));
  const read = chosenText(chosen, 100);
  expect(chosen.value).toBe('');
  await expect(firstValueFrom(read)).resolves.toEqual({ name: 'bank.csv', content: 'day,amount' });
});

it('refuses a file that is too large, by its name and size', async () => {
  await expect(firstValueFrom(chosenText(field(new File(['x'.repeat(2_100_000)], 'big.xml')), 2_000_000))).rejects.toThrow(
    'big.xml has 2.0 MB; at most 2 MB are taken.',
  );
});

it('gives nothing where none was chosen', async () => {
  await expect(firstValueFrom(chosenText(field(), 100), { defaultValue: null })).resolves.toBeNull();
});
