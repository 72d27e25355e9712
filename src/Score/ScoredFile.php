<?php

declare(strict_types=1);

namespace App\Score;

use App\Account\User;
use App\Approval\Approvals;
use App\Http\Problem;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Table\TableColumn;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ScoredList;
use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** A scored list as a file that is taken along. */
final readonly class ScoredFile
{
    public function __construct(
        private EntityManagerInterface $entities,
        private OpenCells $reader,
        private Judgments $judgments,
        private ScoredTables $scored,
        private Approvals $approvals,
        private Logbook $logbook,
        private Ground $ground,
    ) {
    }

    /**
     * The result as CSV lines, as the command line writes them.
     *
     * @param list<string> $carry
     * @param bool         $full  numbers with every digit
     * @param bool         $sure  how sure each answer is, in columns of its own
     *
     * @return \Generator<int, string>
     */
    public function csv(Scoring $scoring, array $carry, bool $full = false, bool $sure = false): \Generator
    {
        if (!$scoring->isDone()) {
            throw new Problem(409, 'This batch has not been scored to the end.');
        }
        $table = $scoring->table();
        $names = array_values(array_filter(
            array_map(static fn (TableColumn $c): string => $c->name(), $table->columns()),
            static fn (string $name): bool => \in_array($name, $carry, true),
        ));
        $form = new ScoredList(
            $scoring->columns(),
            Task::TWO === $scoring->task() ? CutOff::at($scoring->cutoff()) : null,
            $full,
            $sure ? $this->sure($scoring->trial()) : null,
            status: $this->approvals->standing($scoring->trial()),
        );
        yield CsvWriter::line($form->header($names));
        $because = $scoring->because()['sentences'] ?? [];
        $row = 0;
        $walk = $this->reader->walk($table, $names);
        foreach ($this->scored->stream($scoring) as $frame => $lines) {
            $columns = array_values($walk->at($frame)->columns());
            foreach ($lines as $i => $line) {
                ++$row;
                $line['reasons'] = $because[$row] ?? $line['reasons'];
                yield CsvWriter::line($form->cells(array_map(static fn (Column $c): ?string => $c->text($i), $columns), $line));
            }
        }
    }

    /** What it is called, which says whether it is a draft. */
    public function name(Scoring $scoring): string
    {
        return preg_replace('/[^A-Za-z0-9_.-]+/', '_', $scoring->table()->name()).'_scored'
            .($this->approvals->isApproved($scoring->trial()) ? '' : '_draft').'.csv';
    }

    /** @throws Problem when the rows that answers were judged on have changed since */
    public function sure(Trial $trial): Sure
    {
        $this->judgments->onItsRows($trial);
        [, $outcome] = $this->ground->open($trial->study(), []);

        return new Sure($trial->line()->task, $outcome, $trial->answers(), $trial->question()->classes());
    }

    public function noteDownload(Scoring $scoring, User $user): void
    {
        $this->logbook->write(
            $scoring->study(),
            $user,
            'decisions',
            \sprintf('Downloaded the scored list of %s, %s records.', $scoring->table()->name(), number_format($scoring->table()->rows())),
        );
        $this->entities->flush();
    }
}
