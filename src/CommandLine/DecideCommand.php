<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\ActionListReport;
use Dokimos\Core\Act\Capacity;
use Dokimos\Core\Act\Chosen;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\ListCells;
use Dokimos\Core\Act\Tiers;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Table\Table;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** From scored records to a list of actions, with what it costs and brings. */
#[AsCommand('dokimos:decide', 'Order scored records by what acting on them returns')]
final class DecideCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('file', InputArgument::REQUIRED, 'Scored records')
            ->addOption('chance', null, InputOption::VALUE_REQUIRED, 'Column of chances')
            ->addOption('value', null, InputOption::VALUE_REQUIRED, 'Column of what an event costs')
            ->addOption('id', null, InputOption::VALUE_REQUIRED, 'Column that tells records apart')
            ->addOption(
                'terms',
                null,
                InputOption::VALUE_REQUIRED,
                'JSON file with the terms: those of a decision, or cost_per_action and others',
            )
            ->addOption('list', null, InputOption::VALUE_REQUIRED, 'Where the list is written, as the application writes it');
    }

    protected function compute(Options $options): array
    {
        $table = $options->table('file');
        /** @var array{parameters?: array<string, mixed>} $read */
        $read = json_decode((string) file_get_contents($options->required('terms')), true, 32, \JSON_THROW_ON_ERROR);
        $p = $read['parameters'] ?? $read;
        $number = static fn (string $name, ?float $else = null): float => is_numeric($p[$name] ?? null)
            ? (float) $p[$name]
            : $else ?? throw new \InvalidArgumentException(\sprintf('The terms have no number "%s".', $name));
        $edges = static fn (string $name): array => array_map(floatval(...), array_filter((array) ($p[$name] ?? []), is_numeric(...)));
        $id = $options->text('id');
        if (null !== $options->text('list')) {
            return $this->list($table, $p, $options);
        }
        $ids = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $ids[] = null === $id ? (string) ($row + 1) : (string) $table->column($id)->text($row);
        }

        return ['parameters' => $p] + ActionListReport::of(
            new EventTerms(
                Options::numbers($table, $options->required('chance')),
                Options::numbers($table, $options->required('value')),
                new Economics(
                    $number('cost_per_action'),
                    $number('response_share'),
                    $number('kept_share', 1.0),
                    $number('cost_on_success', 0.0),
                    $number('cost_in_vain', 0.0),
                ),
            ),
            $ids,
            (int) $number('capacity', (float) $table->rows),
            new Tiers(array_values($edges('chance_cuts')), array_values($edges('value_cuts'))),
            $number('flat_value', 0.0),
        );
    }

    /**
     * The list of a decision, from its terms as the application keeps them.
     *
     * @param array<string, mixed> $p
     *
     * @return array<string, mixed>
     */
    private function list(Table $table, array $p, Options $options): array
    {
        $number = static fn (string $name, ?float $else = null): float => is_numeric($p[$name] ?? null)
            ? (float) $p[$name]
            : $else ?? throw new \InvalidArgumentException(\sprintf('The terms have no number "%s".', $name));
        $edges = static fn (string $name): array => array_values(array_map(
            floatval(...),
            array_filter((array) ($p[$name] ?? []), is_numeric(...)),
        ));
        $limit = static fn (string $name): ?int => is_numeric($p[$name] ?? null) ? (int) $p[$name] : null;
        $text = static fn (string $name): ?string => \is_string($p[$name] ?? null) ? $p[$name] : null;
        $id = $options->required('id');
        $key = $table->column($id);
        $tie = static fn (int $row): string => (string) $key->text($row);
        $chances = Options::numbers($table, $options->required('chance'));
        $worth = $text('worthColumn');
        $values = null === $worth ? array_fill(0, $table->rows, $number('worth')) : array_map(
            static fn (float $v): float => $v >= 0.0 ? $v : \NAN,
            $table->number($worth)->values,
        );
        $economics = new Economics(
            $number('cost'),
            $number('works'),
            $number('kept', 1.0),
            $number('costOnSuccess', 0.0),
            $number('costInVain', 0.0),
        );
        $groups = [];
        $by = $text('eachBy');
        if (null !== $limit('each') && null !== $by) {
            $column = $table->column($by);
            for ($row = 0; $row < $table->rows; ++$row) {
                $groups[] = $column->text($row);
            }
        }
        $terms = new EventTerms($chances, $values, $economics);
        $list = ActionList::of($terms, $tie);
        $capacity = new Capacity($limit('most'), $limit('each'), $groups);
        $chosen = Chosen::of($list, $capacity, $number('share', 0.0), $tie, (int) $number('seed', 2026.0));
        $tiers = new Tiers($edges('chanceEdges'), null === $worth ? [] : $edges('valueEdges'));
        $place = array_flip($chosen->acted);
        $left = array_fill_keys($chosen->left, true);
        $status = $table->has('status') ? ['status'] : [];
        $lines = CsvWriter::line([$id, 'chance', 'value', 'return', 'tier', 'assigned', 'because', ...$status]);
        foreach ($chosen->together($list) as $row) {
            $own = ListCells::of(
                isset($place[$row]) ? $place[$row] + 1 : null,
                isset($left[$row]),
                $chances[$row],
                $values[$row],
                $list->returns[$row],
                $tiers->rank(...$tiers->of($chances[$row], $values[$row])),
            );
            $because = $table->has('because') ? $table->column('because')->text($row) : null;
            $lines .= CsvWriter::line([
                $key->text($row),
                $own['chance'],
                $own['value'],
                $own['return'],
                $own['tier'],
                $own['assigned'],
                $because,
                ...array_map(static fn (string $name): ?string => $table->column($name)->text($row), $status),
            ]);
        }
        file_put_contents($options->required('list'), $lines);
        $f = $terms->figures($chosen->acted);

        return [
            'actions' => $f->actions,
            'left' => \count($chosen->left),
            'cost' => $f->cost,
            'events_prevented' => $f->prevented,
            'expected_return' => $f->return,
            'roi' => $f->roi,
        ];
    }
}
