<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** A model that answers by where a record ends: a leaf, or the first rule that it meets. */
interface GivesPaths extends Model
{
    /** @return list<string> what leads to the answer, in a sentence for each record */
    public function sentences(Table $prepared): array;
}
