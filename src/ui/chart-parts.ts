import { Chart, defaults, LinearScale, LineElement, PointElement, Tooltip } from 'chart.js';
import { TEXT_FACE } from './tokens';

// What every chart of the program is made of, written in its own face.
Chart.register(LinearScale, LineElement, PointElement, Tooltip);
defaults.font.family = TEXT_FACE;
