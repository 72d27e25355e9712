<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Task\Task;

/** A model that says of its fit all that the command line prints, named as in the reference. */
interface GivesReport extends Model
{
    /**
     * @param Task $task what it was fitted on
     *
     * @return array<string, mixed> figures by the names of the reference cases
     */
    public function report(Task $task, Reported $wanted): array;
}
