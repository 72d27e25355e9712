<?php

declare(strict_types=1);

namespace App\Overview;

use App\Study\Study;

/** A deleted study that can still be brought back. */
final readonly class DeletedStudyView
{
    /** @param int $daysLeft until it is gone for good; 0 = within a day */
    public function __construct(public int $id, public string $name, public string $question, public string $deletedAt, public int $daysLeft)
    {
    }

    public static function of(Study $study): self
    {
        $deleted = $study->deletedAt() ?? throw new \LogicException('Not deleted.');
        $left = $deleted->getTimestamp() + Study::DAYS_KEPT * 86400 - time();

        return new self($study->id(), $study->name(), $study->question(), $deleted->format(\DATE_ATOM), max(0, intdiv($left, 86400)));
    }
}
