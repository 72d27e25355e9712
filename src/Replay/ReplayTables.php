<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\User;
use App\Combine\Combinations;
use App\Preparation\Variants;
use App\Question\Questions;
use App\Question\TargetRequest;
use App\Question\Targets;
use App\Register\Columns;
use App\Source\Upload;
use App\Source\Uploads;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\Tables;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Combine\KnownCombinations;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/**
 * Tables of a study that is done again: their kinds and uses, tables made from others, what is asked of them and how they are prepared.
 *
 * @phpstan-type Source array{
 *     name: string, rows: int, fingerprint: string, columns: list<array{name: string, kind: string, use: string, known: bool}>,
 *     made?: ?array{source: string, other: ?string, combination: array<string, mixed>},
 * }
 */
final readonly class ReplayTables
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Uploads $uploads,
        private Tables $tables,
        private Combinations $combinations,
        private Columns $columns,
        private Targets $targets,
        private Questions $questions,
        private Variants $variants,
        private Trials $trials,
        private Checked $checked,
    ) {
    }

    /** Takes a file in as a table; its work waits. */
    public function import(Study $study, User $user, string $name, string $path): void
    {
        $size = (int) filesize($path);
        $upload = $this->uploads->begin($user, basename($path), $size);
        $file = fopen($path, 'r') ?: throw new \RuntimeException($path.' cannot be read.');
        for ($at = 0; $at < $size; $at += Upload::PIECE) {
            $piece = (string) fread($file, Upload::PIECE);
            $this->uploads->receive($upload, $at, $piece, hash('sha256', $piece));
        }
        $this->tables->import($study, $user, $upload, $name, null);
    }

    public function named(Study $study, string $name): ?DataTable
    {
        return $this->entities->getRepository(DataTable::class)->findOneBy(
            ['study' => $study, 'name' => $name, 'state' => DataTable::READY],
        );
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<Source>
     */
    private static function all(array $file): array
    {
        /** @var list<Source> */
        return \is_array($file['sources']) ? $file['sources'] : [];
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return bool whether the question stands: then trials can begin
     */
    public function goOn(StudyPlan $plan, User $user, array $file): bool
    {
        $study = $plan->study();
        foreach (self::all($file) as $source) {
            $table = $this->named($study, $source['name']);
            if (null === $table) {
                $this->make($plan, $user, $source);
            } elseif (!$plan->has('tables', $source['name'])) {
                $this->describe($table, $user, $source);
                $plan->note('tables', $source['name'], $table->id());
            }
        }
        if ($plan->has('asked', 0)) {
            return true;
        }
        /** @var ?array{table: string, column: string, event: ?string, task: string, figure: string} $target */
        $target = $file['target'];
        $table = null === $target ? null : $this->named($study, $target['table']);
        if (null === $target || null === $table || null === $table->column($target['column'])) {
            return false;
        }
        $this->ask($study, $user, $table, $target, \is_array($file['split'] ?? null) ? $file['split'] : []);
        $this->prepare($study, $user, $file);
        $plan->note('asked', 0, $table->id());

        return true;
    }

    /** @param Source $source */
    private function make(StudyPlan $plan, User $user, array $source): void
    {
        $made = $source['made'] ?? null;
        $from = null === $made ? null : $this->named($plan->study(), $made['source']);
        $other = null === ($made['other'] ?? null) ? null : $this->named($plan->study(), $made['other']);
        if (null === $made || null === $from || (null !== $made['other'] && null === $other) || $plan->has('made', $source['name'])) {
            return;
        }
        $job = $this->combinations->start($from, $other, KnownCombinations::fromArray($made['combination']), $source['name'], $user);
        $plan->note('made', $source['name'], $job->subject());
    }

    /** @param Source $source */
    private function describe(DataTable $table, User $user, array $source): void
    {
        foreach ($source['columns'] as $own) {
            $column = $table->column($own['name']);
            if (null === $column) {
                continue;
            }
            $kind = Kind::from($own['kind']);
            $use = ColumnUse::from($own['use']);
            $this->columns->change(
                $column,
                $user,
                $kind === $column->kind() ? null : $kind,
                ColumnUse::Target === $use || $use === $column->use() ? null : $use,
                $own['known'] === $column->isKnown() ? null : $own['known'],
            );
        }
    }

    /**
     * @param array{table: string, column: string, event: ?string, task: string, figure: string} $target
     * @param array<string, mixed>                                                               $kept
     */
    private function ask(Study $study, User $user, DataTable $table, array $target, array $kept): void
    {
        // What the file does not say stays as it is usual; the column that divides is "by" when it is asked.
        $this->targets->choose($study, $user, $this->checked->as(TargetRequest::class, [
            'column' => $target['column'],
            'event' => $target['event'],
            'task' => $target['task'],
            'tableId' => $table->id(),
            'by' => $kept['column'] ?? null,
        ] + array_diff_key($kept, ['column' => 0]), 'its target and split'));
        if ($this->questions->of($study)->figure()->key !== $target['figure']) {
            $this->trials->rankBy($study, $user, $target['figure']);
        }
    }

    /** @param array<string, mixed> $file */
    private function prepare(Study $study, User $user, array $file): void
    {
        /** @var list<array{letter: string, name: string, steps: list<array<string, mixed>>}> $variants */
        $variants = $file['variants'];
        $there = $this->variants->of($study);
        foreach ($variants as $i => $variant) {
            isset($there[$i])
                ? $this->variants->change($there[$i], $user, $variant['name'], $variant['steps'])
                : $this->variants->create($study, $user, $variant['name'], null, $variant['steps']);
        }
    }

    /**
     * Where each table stands.
     *
     * @param array<string, mixed> $file
     *
     * @return list<ReplaySource>
     */
    public function sources(StudyPlan $plan, array $file): array
    {
        return array_map(function (array $source) use ($plan): ReplaySource {
            $table = $this->named($plan->study(), $source['name']);
            $made = $source['made'] ?? null;
            $lacking = null === $table ? [] : array_values(array_filter(
                array_column($source['columns'], 'name'),
                static fn (string $name): bool => null === $table->column($name),
            ));

            return new ReplaySource($source['name'], $source['rows'], match (true) {
                null === $table && null !== $made => 'made here',
                null === $table => 'missing',
                [] !== $lacking => 'other columns',
                $table->fingerprint() !== $source['fingerprint'] => 'other records',
                default => 'same',
            }, null === $made ? '' : KnownCombinations::fromArray($made['combination'])->sentence(), $lacking);
        }, self::all($file));
    }
}
