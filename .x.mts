import sharp from 'sharp';
import { readFileSync, writeFileSync } from 'node:fs';
import { layOutTiff, closeTiff } from './src/server/output/tiff-layout';
for (const [space, channels] of [['cmyk',4],['grey',1],['rgb',3]] as const) for (const depth of [8,16] as const) {
  const size = { width: 40, height: 20 };
  const profile = new Uint8Array(readFileSync(space==='cmyk'?'profiles/coated.icc':space==='grey'?'profiles/grey.icc':'profiles/srgb.icc'));
  const l = layOutTiff({ size, depth, channels, space, ppi: 100, profile, rowsPerStrip: 20 });
  const n = 40*20*channels;
  const px = depth===8 ? Uint8Array.from({length:n},(_,i)=>(i*37)&255) : Uint16Array.from({length:n},(_,i)=>(i*3701)&65535);
  const file = Buffer.concat([l.header, Buffer.from(px.buffer)]);
  const p=`/tmp/m/t-${space}-${depth}.tif`; writeFileSync(p, file);
  const m = await sharp(p).metadata();
  console.log(space, depth, m.space, m.depth, m.channels, m.hasProfile);
  for (const cs of ['cmyk','b-w','grey16','srgb','rgb16'] as const) try {
    let s = sharp(p,{ignoreIcc:true});
    if (space==='cmyk') s = s.pipelineColourspace('cmyk' as any);
    const r = await s.toColourspace(cs).raw({depth: depth===16?'ushort':'uchar'}).toBuffer({resolveWithObject:true});
    const back = depth===8 ? new Uint8Array(r.data) : new Uint16Array(r.data.buffer, r.data.byteOffset, r.data.length/2);
    let same = back.length===px.length && back.every((v,i)=>v===px[i]);
    console.log('   ', cs, r.info.channels, r.data.length, same);
  } catch (e) { console.log('   ', cs, String(e).slice(0,80)); }
  if (depth===8) {
    let s = sharp(p,{ignoreIcc:true}).keepIccProfile();
    if (space==='cmyk') s = (s as any).pipelineColourspace('cmyk').toColourspace('cmyk');
    if (space==='grey') s = (s as any).toColourspace('b-w');
    await s.jpeg({quality:95,chromaSubsampling:'4:4:4'}).toFile(`/tmp/m/t-${space}.jpg`);
    console.log('   jpeg', (({space,channels,chromaSubsampling,hasProfile})=>({space,channels,chromaSubsampling,hasProfile}))(await sharp(`/tmp/m/t-${space}.jpg`).metadata() as any));
    let q = sharp(`/tmp/m/t-${space}.jpg`,{ignoreIcc:true});
    if (space==='cmyk') q = (q as any).pipelineColourspace('cmyk').toColourspace('cmyk'); 
    if (space==='grey') q = (q as any).toColourspace('b-w');
    const b = await q.raw().toBuffer(); let d=0; for (let i=0;i<b.length;i++) d+=Math.abs(b[i]!-px[i]!); console.log('   jpeg diff', b.length, d/b.length);
  }
}
