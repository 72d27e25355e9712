<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Refusal;
use Dokimos\Core\Task\Task;

/** The data do not allow this model; the message is a sentence for the analyst. */
final class CannotFit extends \RuntimeException implements Refusal
{
    /**
     * Rows that teach, of which every model needs one.
     *
     * @return non-empty-list<int>
     *
     * @throws self no training row has a known outcome, so there is nothing to learn from
     */
    public static function withoutRows(Task $task): array
    {
        $rows = $task->usable();

        return [] === $rows ? throw new self('No training row has a known outcome, so there is nothing to learn from.') : $rows;
    }
}
