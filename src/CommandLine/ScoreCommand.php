<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Table\NumberColumn;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** Scores a file of new records. */
#[AsCommand('dokimos:score', 'Score a file of new records with a fitted model')]
final class ScoreCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('model', InputArgument::REQUIRED)->addArgument('file', InputArgument::REQUIRED)
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Where to write the scored list')
            ->addOption('carry', null, InputOption::VALUE_REQUIRED, 'Columns to carry along (all when left out)')
            ->addOption('cutoff', null, InputOption::VALUE_REQUIRED, 'Called from this chance on', '0.5')
            ->addOption('reasons', null, InputOption::VALUE_NONE, 'Write the reasons of each record')
            ->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', [])
            ->addOption('match', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'asked=found', []);
    }

    protected function compute(Options $options): array
    {
        $data = json_decode((string) @file_get_contents($options->required('model')), true);
        if (!\is_array($data)) {
            throw new \InvalidArgumentException(\sprintf('%s is not a model in JSON.', $options->required('model')));
        }
        /** @var array<string, mixed> $data */
        $model = ScoringModel::fromArray($data);
        $file = new CsvFile($options->required('file'));
        $dialect = $file->dialect();
        $imported = $file->look($dialect, $options->kinds());
        $kinds = [];
        foreach ($imported->columns as $j => $column) {
            $kinds[$imported->names[$j]] = $column->kind;
        }
        $matching = $problems = [];
        foreach (ColumnMatch::of($model->asked, $kinds, $options->pairs('match')) as $line) {
            if (null !== $line['found']) {
                $matching[$line['asked']] = $line['found'];
            }
            if (null !== $line['problem']) {
                $problems[] = $line['problem'];
            }
        }
        $carry = [] !== $options->list('carry') ? $options->list('carry') : $imported->names;
        $isEvent = AboutLearner::TWO === $model->task;
        $cutoff = (float) $options->required('cutoff');
        $list = null === $options->text('out') ? null : (fopen($options->required('out'), 'w') ?: throw new \RuntimeException(\sprintf('%s cannot be written.', $options->required('out'))));
        $scored = $called = 0;
        $classes = null;
        foreach ($file->parts($dialect, $kinds) as $table) {
            $selected = $model->select($table, $matching);
            $lines = $model->score($selected, $options->is('reasons'));
            $shares = AboutLearner::MORE === $model->task ? $model->shares($selected) : [];
            if (null !== $list && null === $classes) {
                fwrite($list, self::header($model->target, $carry, array_map(strval(...), array_keys($shares)), $isEvent));
            }
            $classes = array_keys($shares);
            foreach ($lines as $row => $line) {
                $scored += null === $line['chance'] ? 0 : 1;
                $called += null !== $line['chance'] && $line['chance'] >= $cutoff ? 1 : 0;
                if (null !== $list) {
                    $cells = array_map(static fn (string $c) => $table->column($c)->text($row), $carry);
                    fwrite($list, CsvWriter::line([...$cells, ...self::answer($line['chance'], array_map(static fn (array $own): float => $own[$row], $shares), $isEvent ? $cutoff : null), $line['why'] ?? $line['reasons']]));
                }
            }
        }
        if (null !== $list) {
            fclose($list);
        }

        return ['rows' => $imported->rows, 'scored' => $scored] + ($isEvent ? ['called' => $called] : []) + ['problems' => $problems];
    }

    /**
     * @param list<string> $carry
     * @param list<string> $classes of several
     */
    private static function header(string $target, array $carry, array $classes, bool $isEvent): string
    {
        $name = static fn (string $of): string => (string) preg_replace('/[^\pL\pN]+/u', '_', $of);

        return CsvWriter::line([...$carry, ...($isEvent ? [$name($target).'_chance', 'called'] : [$name($target).'_predicted', ...array_map(static fn (string $c): string => $name($target).'_chance_'.$name($c), $classes)]), 'because']);
    }

    /**
     * @param array<string, float> $shares by class
     * @param ?float               $cutoff null when no event is called
     *
     * @return list<?string> the cells of one record
     */
    private static function answer(?float $chance, array $shares, ?float $cutoff): array
    {
        $said = null === $chance ? null : NumberColumn::write($chance);
        if (null !== $cutoff) {
            return [$said, null === $chance ? null : ($chance >= $cutoff ? 'yes' : 'no')];
        }
        if ([] === $shares) {
            return [$said];
        }
        if (null === $chance) {
            return array_fill(0, 1 + \count($shares), null);
        }
        // Of equal chances the first class, as everywhere.
        $best = array_search(max($shares), $shares, true);

        return [(string) $best, ...array_values(array_map(NumberColumn::write(...), $shares))];
    }
}
