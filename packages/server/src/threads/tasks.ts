import { carry } from './tasks/carry.ts';
import { chartedPlaces } from './tasks/chartedPlaces.ts';
import { encode, encodeLayers } from './tasks/encode.ts';
import { examineTile, examineWhole, joinNet, scoreWithNet } from './tasks/examine.ts';
import { load } from './tasks/load.ts';
import { makeCharts } from './tasks/makeCharts.ts';
import { measureGrain } from './tasks/measureGrain.ts';
import { mendPart } from './tasks/mendPart.ts';
import { propose } from './tasks/propose.ts';
import { render } from './tasks/render.ts';
import { report } from './tasks/report.ts';
import { takeBack } from './tasks/takeBack.ts';

/** What a thread can be asked to do. */
export const tasks = {
  carry,
  chartedPlaces,
  encode,
  encodeLayers,
  examineTile,
  examineWhole,
  joinNet,
  load,
  makeCharts,
  measureGrain,
  mendPart,
  propose,
  render,
  report,
  scoreWithNet,
  takeBack,
};
