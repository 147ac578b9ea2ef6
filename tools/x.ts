import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { kitPaint } from '@viaticum/core/kit';
import { newStudio } from '@viaticum/contract';
for (const name of ['balloons','kettle','star','wool'] as const) {
const lesson = demoLesson(name as any); const { plan } = planLesson(lesson);
const t0=performance.now(); const k = kitPaint(lesson, plan, newStudio); const t1=performance.now();
console.log(lesson.title, k.canvasMl.toFixed(1), k.headMl.toFixed(1), k.groupMl.toFixed(0), (t1-t0).toFixed(0)+'ms');
for (const m of k.mixes) console.log('  ', m.volume.canvas.toFixed(1), m.volume.brush.toFixed(1), m.volume.total.toFixed(1), m.groupMl.toFixed(0), m.premix.mix.name, m.premix.advised, m.premix.reasons.map(r=>r.words).join('; '), m.premix.batch?.parts.map(p=>`${p.ml} ${p.name}`).join(' + ')??'', m.premix.batch?.roundedBy.toFixed(2)??'');
for (const t of k.tubes) console.log('    ', t.name, t.headMl.toFixed(2), t.groupMl.toFixed(1), t.sureMl.toFixed(0), t.sharing, t.buy.sizes.join('+'));
}
