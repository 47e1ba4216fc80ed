import '@testing-library/jest-dom';
import { configure } from '@testing-library/dom';

// On a loaded computer a part that is loaded when it is shown takes its time; what is there is found at once all the same.
configure({ asyncUtilTimeout: 40_000 });
