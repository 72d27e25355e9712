<?php

declare(strict_types=1);

namespace App\Question;

use App\Study\Study;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;

/** Finds what a study asks. */
final readonly class Questions
{
    public function __construct(private EntityManagerInterface $entities)
    {
    }

    public function of(Study $study): Question
    {
        return $this->entities->find(Question::class, $study->id()) ?? throw new \LogicException(\sprintf('Study %d has no question.', $study->id()));
    }

    public function begin(Study $study): Question
    {
        $question = new Question($study);
        $this->entities->persist($question);

        return $question;
    }

    /** The seal of the study that a table belongs to. */
    public function seal(Study $study): Seal
    {
        return Seal::of($this->of($study));
    }

    /** Whether the study is about this very table. */
    public function isAbout(DataTable $table): bool
    {
        return $this->of($table->study())->table() === $table;
    }
}
