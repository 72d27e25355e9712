<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Act\ActionListReport;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\Tiers;
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
            ->addOption('terms', null, InputOption::VALUE_REQUIRED, 'JSON file with cost, share that works, capacity and edges of tiers');
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
}
