<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Table\Kind;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** The figures of every column of a file. */
#[AsCommand('dokimos:profile', 'Summarize every column of a file')]
final class ProfileCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('file', InputArgument::REQUIRED)->addOption(
            'relations',
            null,
            InputOption::VALUE_NONE,
            'How every two columns go together',
        )->addOption(
            'target',
            null,
            InputOption::VALUE_REQUIRED,
            'Columns to tell about, comma-separated',
            '',
        )->addOption('terms', null, InputOption::VALUE_REQUIRED, 'The words of this column')->addOption(
            'pairs',
            null,
            InputOption::VALUE_REQUIRED,
            'Pairs of records whose texts are compared: 1-2,3-4',
            '',
        )->addOption('class', null, InputOption::VALUE_REQUIRED, 'and how they go with the classes of that one', '')->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', []);
    }

    protected function compute(Options $options): array
    {
        [$table, $imported] = (new CsvFile($options->required('file')))->read($options->kinds());
        if (null !== $terms = $options->text('terms')) {
            return TextFigures::of($table, $terms, $options->text('class'), $options->list('pairs'));
        }
        $columns = [];
        foreach ($imported->columns as $place => $encoded) {
            $name = $imported->names[$place];
            /** @var array<string, mixed> $summary */
            $summary = $encoded->profile['summary'];
            if (Kind::Number === $encoded->kind) {
                $values = $table->number($name)->values;
                $own = NumberSummary::of($values);
                $first = array_map($own->robustZ(...), \array_slice($values, 0, 10));
                $summary['robust_z_first_10_rows'] = 0.0 === $own->figure('mad_raw') || null === $own->figure('mad_raw') ? null : $first;
            }
            $columns[$name] = ['kind' => $encoded->kind->value] + $summary;
        }

        return [
            'rows' => $table->rows,
            'columns' => $columns,
        ] + ($options->is('relations') ? Relations::of($table, $options->list('target')) : []);
    }
}
