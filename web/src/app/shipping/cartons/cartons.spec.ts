import { consignmentRoutes, type CartonTypeView } from '@nockwright/contract/shipping';
import { show, testApi } from '../../test-screen';
import { CartonTypesPage } from './carton-types-page';

const rows: readonly CartonTypeView[] = [
  { code: 'S', name: 'Small', length: '30', width: '22', height: '18', tare: '0.22', most: '10' },
  { code: 'OWN', name: 'own packaging', length: '300', width: '300', height: '300', tare: '0', most: '2000' },
];
const { api, providers, answers, lastBody } = testApi();
beforeEach(() => {
  api.call.mockReset();
  answers([consignmentRoutes.cartonTypes, rows], [consignmentRoutes.setCartonType, rows]);
});

it('shows the sizes of cartons, and none of what goes as it is', () => {
  const screen = show(CartonTypesPage, {}, providers);
  expect(screen.text).toContain('30 × 22 × 18');
  expect(screen.text).not.toContain('300 × 300');
});

it('makes a new type: what is missing is said at its field, and the code goes along', () => {
  const screen = show(CartonTypesPage, {}, providers);
  screen.click('New carton type');
  screen.type('Code', 'xl');
  screen.type('Name', 'Extra large');
  for (const [label, value] of [
    ['Length inside, cm', '80'],
    ['Width inside, cm', '60'],
    ['Height inside, cm', '60'],
    ['Weight empty, kg', '1.2'],
  ] as const)
    screen.type(label, value);
  screen.click('Save carton type');
  expect(screen.text).toContain('Weight packed: missing.');
  screen.type('Weight packed at most, kg', '30');
  screen.click('Save carton type');
  expect(lastBody()).toEqual({ code: 'XL', name: 'Extra large', length: '80', width: '60', height: '60', tare: '1.2', most: '30' });
});
