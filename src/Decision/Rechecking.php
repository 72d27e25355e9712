<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Table\DataTable;
use App\Trial\Trial;

/** Holds a trial against records that a routine has scored. */
interface Rechecking
{
    public function begin(Trial $trial, User $user, DataTable $table, float $cutoff): void;
}
