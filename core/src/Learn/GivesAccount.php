<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** A model that accounts exactly for each of its answers, column by column. */
interface GivesAccount extends Model
{
    /**
     * @param Table $prepared the record after preparation
     *
     * @return ?Account null when a needed value is missing, or the model does not know the average record
     */
    public function account(Table $prepared, int $row): ?Account;
}
