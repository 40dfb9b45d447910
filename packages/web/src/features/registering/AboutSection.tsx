import type { TypeInfo } from '@kanonos/contract';
import { AboutFields } from '../document/AboutFields.tsx';
import type { Common } from './common.ts';

/** Rarely needed properties, folded unless the type asks for them or one is given already. */
export const AboutSection = ({
  type,
  common,
  title,
  titles,
  className,
}: {
  type: TypeInfo;
  common: Common;
  title: string;
  titles: boolean;
  /** The number of columns of its fields. */
  className: string;
}) => (
  <details
    open={type.underParent || type.isOutside || common.about.parent !== ''}
    className="col-span-full border-t border-line pt-2.5"
  >
    <summary className="cursor-pointer font-[550] text-petrol">{title}</summary>
    <div className={`mt-2 grid gap-3.5 ${className}`}>
      <AboutFields
        values={common.about}
        onChange={common.setAbout}
        parentNeeded={type.underParent}
        typeReview={{ every: type.reviewEvery, unit: type.reviewUnit }}
        sharing={type.sharing}
        isOutside={type.isOutside}
        titles={titles}
      />
    </div>
  </details>
);
