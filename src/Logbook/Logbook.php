<?php

declare(strict_types=1);

namespace App\Logbook;

use App\Account\User;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;

/** Writes down what is done. The caller flushes, so that entry and deed are stored together. */
final readonly class Logbook
{
    public function __construct(private EntityManagerInterface $entities)
    {
    }

    public function write(Study $study, ?User $user, string $station, string $sentence): void
    {
        $this->entities->persist(new LogEntry($study, $user, $station, mb_substr($sentence, 0, 1000)));
    }
}
