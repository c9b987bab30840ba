import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import { listLessons } from '@/server/lessons';
import { LessonList } from '@/ui/lessons/lesson-list';
import { Masthead } from '@/ui/shell/masthead';
import { signedIn } from '../visit';

export const dynamic = 'force-dynamic';

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('lessons'))('title') };
}

export default async function LessonsPage() {
  const t = await getTranslations('lessons');
  const lessons = await listLessons(await signedIn());
  return (
    <>
      <Masthead />
      <main className="page d-flex flex-column gap-3" id="main">
        <div className="d-flex align-items-baseline gap-3">
          <h1 className="m-0">{t('title')}</h1>
          <span className="soft">{t('count', { count: lessons.length })}</span>
        </div>
        {lessons.length === 0 ? (
          <p className="quiet-box soft">{t('none')}</p>
        ) : (
          <LessonList lessons={lessons} />
        )}
      </main>
    </>
  );
}
