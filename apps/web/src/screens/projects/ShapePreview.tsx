import { meshOfBody, type Solid, solidKindOf } from '@eppu/core/solid';
import { useMemo } from 'react';
import { MeshPreview } from '../MeshPreview.tsx';

/** A shape as it will be. */
export function ShapePreview({ solid }: { readonly solid: Solid }) {
	const kind = solidKindOf(solid);
	const mesh = useMemo(() => meshOfBody(kind.body(solid), kind.words), [solid]);
	return <MeshPreview mesh={mesh} open={solid.solid === 'plane'} label={`A ${kind.words.toLowerCase()}`} />;
}
