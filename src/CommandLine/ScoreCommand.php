<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\Remarks;
use Dokimos\Core\Decide\ScoredColumns;
use Dokimos\Core\Decide\ScoredList;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
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
            ->addOption(
                'sure',
                null,
                InputOption::VALUE_REQUIRED,
                'Answers for unseen rows, from dokimos:fit --unseen: write how sure each answer is',
            )
            ->addOption('full', null, InputOption::VALUE_NONE, 'Write numbers with every digit')
            ->addOption('status', null, InputOption::VALUE_REQUIRED, 'What is written beside each answer: draft, or approved')
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
        $isEvent = Task::TWO === $model->task;
        $cutoff = CutOff::at((float) $options->required('cutoff'));
        $form = new ScoredList(
            ScoredColumns::of($model->target, $model->task, $model->classes()),
            $isEvent ? $cutoff : null,
            $options->is('full'),
            null === $options->text('sure') ? null : Unseen::sure($options->required('sure'), $model->task, $model->classes()),
            status: $options->text('status'),
        );
        $list = null === $options->text('out') ? null : (fopen($options->required('out'), 'w') ?: throw new \RuntimeException(\sprintf(
            '%s cannot be written.',
            $options->required('out'),
        )));
        if (null !== $list) {
            fwrite($list, CsvWriter::line($form->header($carry)));
        }
        $scored = $called = 0;
        $unseen = $spellings = [];
        foreach ($file->parts($dialect, $kinds) as $table) {
            foreach ($model->spellings($table, $matching) as $column => $as) {
                $spellings[$column] = ($spellings[$column] ?? []) + $as;
            }
            $selected = $model->select($table, $matching);
            foreach ($model->unseen($selected) as $u) {
                $unseen[$u['column']] = [
                    'column' => $u['column'],
                    'values' => array_values(array_unique([...$unseen[$u['column']]['values'] ?? [], ...$u['values']])),
                    'rows' => ($unseen[$u['column']]['rows'] ?? 0) + $u['rows'],
                ];
            }
            foreach ($model->score($selected, $options->is('reasons')) as $row => $line) {
                $scored += null === $line['why'] ? 1 : 0;
                $called += $isEvent && null !== $line['chance'] && $cutoff->calls($line['chance']) ? 1 : 0;
                if (null !== $list) {
                    fwrite(
                        $list,
                        CsvWriter::line($form->cells(array_map(static fn (string $c) => $table->column($c)->text($row), $carry), $line)),
                    );
                }
            }
        }
        if (null !== $list) {
            fclose($list);
        }

        return [
            'rows' => $imported->rows,
            'scored' => $scored,
        ] + ($isEvent ? ['called' => $called] : []) + [
            'problems' => [...$problems, ...Remarks::spelled($spellings), ...array_map(Remarks::unseen(...), array_values($unseen))],
        ];
    }
}
