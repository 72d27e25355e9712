<?php

declare(strict_types=1);

namespace App\Question;

use App\Table\TableReady;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** A study is about its first table, until another is chosen; and what the seal hides in a new one is hidden before anybody sees it. */
#[AsEventListener]
final readonly class FirstLook
{
    public function __construct(private Questions $questions, private Veils $veils)
    {
    }

    public function __invoke(TableReady $ready): void
    {
        $this->veils->over($ready->table);
        $question = $this->questions->of($ready->table->study());
        if (null === $question->table()) {
            $question->useTable($ready->table);
        }
    }
}
