import {
  type Choices,
  type FormatName,
  type Handed,
  type HandOnWith,
  handOn,
  type Remark,
  remarksOf,
} from '@varrup/core';
import * as Comlink from 'comlink';
import { Mirrored, type News } from '../mirror/mirror.ts';

/** Handing on off the interface's thread. */
export const hander = {
  async hand(
    shot: News,
    format: FormatName,
    choices: Choices,
    beside: HandOnWith,
    onProgress: (share: number) => void,
  ): Promise<Handed> {
    const handed = await handOn(new Mirrored().hear(shot), format, choices, { ...beside, onProgress });
    return Comlink.transfer(
      handed,
      handed.files.map(({ bytes }) => bytes.buffer),
    );
  },

  remarks: (shot: News, choices: Choices): Remark[] => remarksOf(new Mirrored().hear(shot), choices),
};

Comlink.expose(hander);
