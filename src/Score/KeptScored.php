<?php

declare(strict_types=1);

namespace App\Score;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Question\OpenCells;
use App\Table\DataTable;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ScoredList;
use Dokimos\Core\Explain\Confidence;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/**
 * Makes scored records a table of the study: carried columns, the answer and how sure it is, confidence, reasons, and why a record has no
 * answer. It has a Register, rows, pictures and exports like any table.
 */
final readonly class KeptScored
{
    private const QUICK_ROWS = 20000;

    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private OpenCells $reader,
        private ScoredTables $scored,
        private ScoredFile $file,
    ) {
    }

    public function start(Scoring $scoring, User $user, KeepRequest $request): Job
    {
        $table = $this->begin($scoring, $request);
        $job = $this->jobs->start(
            $scoring->study(),
            $user,
            KeptScoredRunner::KIND,
            $table->id(),
            \sprintf('Making %s', $table->name()),
            $scoring->table()->rows() > self::QUICK_ROWS ? Jobs::LONG : Jobs::QUICK,
            ['make' => ['scoring' => $scoring->id(), 'as' => trim($request->as), 'carry' => $request->carry]],
        );
        $this->entities->flush();

        return $job;
    }

    /** A table that waits for its records: the next edition where there is one of scored records of that name. */
    public function begin(Scoring $scoring, KeepRequest $request): DataTable
    {
        if (!$scoring->isDone()) {
            throw new Problem(409, 'The scoring is not finished.');
        }
        $name = trim($request->name);
        // What it would be the next edition of is no table that something was learned from.
        $last = $this->entities->getRepository(DataTable::class)->findOneBy(
            ['study' => $scoring->study(), 'name' => $name, 'state' => DataTable::READY],
            ['edition' => 'DESC'],
        );
        if (null !== $last && null === $last->column('confidence')) {
            throw Problem::invalid(
                \sprintf('There is a table %s already, not made of scored records; choose another name.', $name),
                'name',
            );
        }
        $names = array_map(static fn (TableColumn $c): string => $c->name(), $scoring->table()->columns());
        $unknown = array_diff($request->carry ?? [], $names);
        if ([] !== $unknown) {
            throw Problem::invalid(\sprintf('There is no column %s to carry along.', implode(', ', $unknown)), 'carry');
        }
        $this->file->sure($scoring->trial());
        $table = new DataTable($scoring->study(), $name, $name, 0, [], 1 + ($last?->edition() ?? 0));
        $this->entities->persist($table);
        $this->entities->flush();

        return $table;
    }

    /**
     * The columns of the table and the kind of each.
     *
     * @param ?list<string> $carry
     *
     * @return array<string, Kind>
     */
    public function kinds(Scoring $scoring, string $as, ?array $carry): array
    {
        $form = $this->form($scoring, $as);
        $carried = $this->carried($scoring, $carry);
        $kinds = [];
        foreach ($scoring->table()->columns() as $column) {
            if (\in_array($column->name(), $carried, true)) {
                $kinds[$column->name()] = $column->kind();
            }
        }
        foreach ($this->own($form, $kinds) as $plain => $name) {
            $kinds[$name] = match (true) {
                'called' === $plain => Kind::YesNo,
                'because' === $plain, 'beyond' === $plain, 'not_scored_because' === $plain, str_ends_with($plain, '_set_90') => Kind::Text,
                'confidence' === $plain => Kind::Category,
                str_ends_with($plain, '_predicted') => Task::NUMBER === $scoring->task() ? Kind::Number : Kind::Category,
                default => Kind::Number,
            };
        }

        return $kinds;
    }

    /**
     * @param ?list<string> $carry
     *
     * @return list<string>
     */
    private function carried(Scoring $scoring, ?array $carry): array
    {
        return array_values(array_filter(
            array_map(static fn (TableColumn $c): string => $c->name(), $scoring->table()->columns()),
            static fn (string $name): bool => null === $carry || \in_array($name, $carry, true),
        ));
    }

    private function form(Scoring $scoring, string $as): ScoredList
    {
        return new ScoredList(
            $scoring->columns(),
            Task::TWO === $scoring->task() ? CutOff::at($scoring->cutoff()) : null,
            true,
            $this->file->sure($scoring->trial()),
            '' === $as ? null : $as,
        );
    }

    /**
     * Names of what the model says, told apart from carried columns of the same name.
     *
     * @param array<string, mixed> $taken
     *
     * @return array<string, string> by the plain name
     */
    private function own(ScoredList $form, array $taken): array
    {
        $names = [];
        foreach ([...$form->header([]), 'confidence', 'beyond', 'not_scored_because'] as $plain) {
            $name = $plain;
            for ($k = 2; isset($taken[$name]); ++$k) {
                $name = $plain.'_'.$k;
            }
            $taken[$name] = true;
            $names[$plain] = $name;
        }

        return $names;
    }

    /**
     * @param ?list<string> $carry
     *
     * @return \Generator<int, list<?string>> the names, then a record each
     */
    public function lines(Scoring $scoring, string $as, ?array $carry): \Generator
    {
        yield array_map(strval(...), array_keys($this->kinds($scoring, $as, $carry)));
        $form = $this->form($scoring, $as);
        $carried = $this->carried($scoring, $carry);
        $sure = $this->file->sure($scoring->trial());
        $made = $scoring->trial()->question()->table();
        $beyond = null === $made ? null : Beyond::of($made, array_map(strval(...), array_keys($scoring->matching())));
        $because = $scoring->because()['sentences'] ?? [];
        $reads = array_values(array_unique([...$carried, ...array_values($scoring->matching())]));
        $row = 0;
        $walk = $this->reader->walk($scoring->table(), $reads);
        foreach ($this->scored->stream($scoring) as $frame => $lines) {
            $part = $walk->at($frame);
            $asked = Table::of(array_map($part->column(...), $scoring->matching()), $part->rows);
            $said = $beyond?->said($asked) ?? [];
            $columns = array_map($part->column(...), $carried);
            foreach ($lines as $i => $line) {
                ++$row;
                $known = null === $line['why'];
                $why = $line['why'];
                $line['reasons'] = $because[$row] ?? $line['reasons'];
                $line['why'] = null;
                $cells = $form->cells(array_map(static fn (Column $c): ?string => $c->text($i), $columns), $line);
                $cells[\count($cells) - 1] = $known && '' !== $cells[\count($cells) - 1] ? $cells[\count($cells) - 1] : null;
                yield [
                    ...$cells,
                    $known ? Confidence::of($sure, $scoring->task(), $line, isset($said[$i]))->value : null,
                    isset($said[$i]) ? implode('; ', $said[$i]) : null,
                    $why,
                ];
            }
        }
    }
}
