import { parseArgs } from 'node:util';
import { benchBreadth } from './breadth.ts';
import { benchChart } from './chart.ts';
import { benchFinishing } from './finishing.ts';
import { benchFinding } from './finding.ts';
import { benchFindingAreas } from './findingAreas.ts';
import { benchFindingLines } from './findingLines.ts';
import { benchLosses } from './losses.ts';
import { benchLossTimes } from './lossTimes.ts';
import { benchHardPlaces } from './hardPlaces.ts';
import { benchOpening } from './opening.ts';
import { loadPhotographs, loadSceneMiddle, loadSceneParts } from './photographs.ts';
import { benchQuality } from './quality.ts';
import { benchSeries } from './series.ts';
import { benchSignIn } from './signIn.ts';
import { benchSpeed } from './speed.ts';
import { benchStains } from './stains.ts';
import { benchTorn } from './torn.ts';
import { benchTreating } from './treating.ts';
import { benchUnderwater } from './underwater.ts';
import { benchWideLines } from './wideLines.ts';

const { values } = parseArgs({ options: { only: { type: 'string' }, draw: { type: 'string' } } });
const wanted = (name: string): boolean => values.only === undefined || values.only === name;

const photographs = await loadPhotographs();
if (wanted('quality')) await benchQuality([...photographs, ...(await loadSceneParts())]);
if (wanted('losses')) {
  await benchLosses([...photographs, ...(await loadSceneParts())]);
  await benchLossTimes(await loadSceneMiddle());
}
if (wanted('losses') || wanted('wide lines')) await benchWideLines();
if (wanted('quality') || wanted('stains')) await benchStains();
if (wanted('hard places')) benchHardPlaces();
if (wanted('finding')) await benchFinding();
if (wanted('finding') || wanted('lines')) await benchFindingLines();
if (wanted('finding') || wanted('areas')) await benchFindingAreas();
if (wanted('finding') || wanted('chart')) await benchChart();
if (wanted('speed')) await benchSpeed();
if (values.only === 'underwater') await benchUnderwater();
if (wanted('opening')) await benchOpening();
if (wanted('opening') || wanted('finishing')) await benchFinishing();
if (wanted('opening') || wanted('treating')) await benchTreating();
// Photographs that `./fennip train data` fetches; the last part of them is looked at once.
if (values.only === 'breadth') await benchBreadth('validation', values.draw);
if (values.only === 'breadth on test') await benchBreadth('test', values.draw);
if (wanted('torn')) await benchTorn('validation');
if (values.only === 'torn on training') await benchTorn('training');
if (wanted('series')) await benchSeries();
if (wanted('sign-in')) await benchSignIn();
process.exit(0);
