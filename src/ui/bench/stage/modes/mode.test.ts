import { beforeEach, describe, expect, it } from 'vitest';
import { enterPicture } from '../../picture-store';
import { useOpen } from '../../ticket/open';
import { useChosen } from '../../trial-store';
import { editZone, useTool } from '../tools/tool';
import { look, useViewport } from '../viewport';
import { lookIn, modeOf, useLooking } from './mode';

const mode = () => modeOf(useLooking.getState(), useOpen.getState().section);

/** A job that was never on the bench. */
let job = 0;
beforeEach(() => enterPicture(++job, '1'));

describe('the way of looking', () => {
  it('is one, by what was chosen and what is open', () => {
    expect(mode()).toEqual({ way: 'wipe' });
    useOpen.setState({ section: 'size' });
    expect(mode()).toEqual({ way: 'paper' });
    useLooking.setState({ laying: false, comparing: 'side by side' });
    expect(mode()).toEqual({ way: 'side by side' });
  });

  it('of a section ends with it and comes back with it', () => {
    useOpen.setState({ section: 'enlarge' });
    lookIn({ way: 'try' });
    expect(mode()).toEqual({ way: 'try' });
    useOpen.setState({ section: 'output' });
    expect(mode()).toEqual({ way: 'wipe' });
    useOpen.setState({ section: 'enlarge' });
    expect(mode()).toEqual({ way: 'try' });
    lookIn({ way: 'crop', shape: 'free' });
    expect(mode()).toEqual({ way: 'wipe' });
  });
});

describe('what belongs to a picture', () => {
  it('is kept while another lies on the bench, and means nothing there', () => {
    useOpen.setState({ section: 'enlarge' });
    lookIn({ way: 'try' });
    editZone('sky');
    useChosen.setState({ trial: 'b' });
    look({ zoom: { of: 'result', scale: 1 } });
    useLooking.setState({ comparing: 'result alone' });
    enterPicture(job, '7');
    expect(mode()).toEqual({ way: 'result alone' });
    expect(useTool.getState().tool).toBeNull();
    expect(useChosen.getState().trial).toBeNull();
    expect(useViewport.getState().zoom).toEqual({ of: 'fit' });
    enterPicture(job, '1');
    expect(mode()).toEqual({ way: 'try' });
    expect(useTool.getState().tool).toEqual({ kind: 'zone', id: 'sky', picking: null });
    expect(useChosen.getState().trial).toBe('b');
    expect(useViewport.getState().zoom).toEqual({ of: 'result', scale: 1 });
  });

  it('means nothing on another job, and is found again on coming back', () => {
    editZone('sky');
    useOpen.setState({ section: 'finish' });
    useLooking.setState({ comparing: 'blink' });
    enterPicture(1000 + job, '1');
    expect(useTool.getState().tool).toBeNull();
    expect(useOpen.getState().section).toBe('original');
    expect(useLooking.getState().comparing).toBe('wipe');
    enterPicture(job, '1');
    expect(useTool.getState().tool).toMatchObject({ id: 'sky' });
    expect(useOpen.getState().section).toBe('finish');
    // How one looks begins anew with every job.
    expect(useLooking.getState().comparing).toBe('wipe');
  });

  it('is kept of the last jobs alone', () => {
    const first = job;
    editZone('sky');
    for (let i = 0; i < 40; i++) enterPicture(++job, '1');
    enterPicture(first, '1');
    expect(useTool.getState().tool).toBeNull();
  });
});
