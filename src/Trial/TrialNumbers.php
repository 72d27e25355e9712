<?php

declare(strict_types=1);

namespace App\Trial;

use App\Question\Question;
use App\Storage\Store;
use Doctrine\ORM\EntityManagerInterface;

/** Trials of a question are counted from 1, in the order in which they began. */
final readonly class TrialNumbers
{
    public function __construct(private EntityManagerInterface $entities, private Store $store)
    {
    }

    /** Asked in the transaction that writes the trial, so that no two get the same. */
    public function next(Question $question): int
    {
        $this->store->alone('trials', $question->id());
        $last = $this->entities
            ->createQuery('SELECT MAX(t.number) FROM App\Trial\Trial t WHERE t.question = :question')
            ->setParameter('question', $question->id())
            ->getSingleScalarResult();

        return 1 + (int) (is_numeric($last) ? $last : 0);
    }
}
