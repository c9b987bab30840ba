import type { useTranslations } from 'next-intl';
import { wholeLoss } from '@/core/review/chance';
import type { Remarks } from '@/core/review/remarks';
import type { MoveReview } from '@/core/review/review';
import { isFlag } from '@/core/review/verdict';

/** The words that stand beside a better line in what goes out. @param t of `export` */
export const sayRemark =
  (t: ReturnType<typeof useTranslations<'export'>>, { form }: Remarks) =>
  ({ loss, verdict }: MoveReview): string =>
    form === 'words' && isFlag(verdict)
      ? t(`words.${verdict as 'mistake'}`, { loss: wholeLoss(loss) })
      : t('better', { loss: wholeLoss(loss) });
