<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** A model made of others: where one of them cannot answer, the rest do, and the record is marked. */
interface AnswersInPart extends Model
{
    /** @return array<int, string> by row which of them did not answer, in a sentence; rows that all answered, or none, are left out */
    public function inPart(Table $table): array;
}
