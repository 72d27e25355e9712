<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Math\Holm;
use Dokimos\Core\Recheck\ColumnDrift;
use Dokimos\Core\Recheck\InTheLarge;
use Dokimos\Core\Recheck\Periods;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** How the columns of newer records differ from those of earlier ones, and figures of both periods. */
#[AsCommand('dokimos:drift', 'Hold newer records against earlier ones, column by column, and figures of both')]
final class DriftCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('file', InputArgument::REQUIRED, 'Earlier records, such as those of training')
            ->addArgument('newer', InputArgument::REQUIRED)
            ->addOption('columns', null, InputOption::VALUE_REQUIRED, 'Columns, separated by commas; all others than those of figures')
            ->addOption('event', null, InputOption::VALUE_REQUIRED, 'Column of outcomes, 1 = the event')
            ->addOption('chance', null, InputOption::VALUE_REQUIRED, 'Column of its chances')
            ->addOption('number', null, InputOption::VALUE_REQUIRED, 'Column of outcomes that are numbers')
            ->addOption('predicted', null, InputOption::VALUE_REQUIRED, 'Column of what was predicted for them')
            ->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', []);
    }

    protected function compute(Options $options): array
    {
        $then = $options->table('file');
        [$now] = (new CsvFile($options->required('newer')))->read(
            $options->kinds() + array_map(static fn (Column $c): Kind => $c->kind(), $then->columns()),
        );
        $figures = array_filter(array_map($options->text(...), ['event', 'chance', 'number', 'predicted']), is_string(...));
        $names = [] !== $options->list('columns') ? $options->list('columns') : array_values(array_diff($then->names(), $figures));
        $numbers = array_filter($names, static fn (string $n): bool => $then->column($n) instanceof NumberColumn);
        $columns = $p = [];
        foreach ([...$numbers, ...array_diff($names, $numbers)] as $name) {
            if (!$now->has($name)) {
                throw new \InvalidArgumentException(\sprintf('The newer records have no column %s.', $name));
            }
            $drift = ColumnDrift::of($then->column($name), $now->column($name));
            $columns[$name] = $drift->toArray();
            if (null !== $drift->p) {
                $p[$name] = $drift->p;
            }
        }
        foreach (Holm::adjusted($p) as $name => $adjusted) {
            $columns[$name]['p_holm'] = $adjusted;
        }
        $out = ['rows_training' => $then->rows, 'rows_newer' => $now->rows, 'columns' => $columns];
        $of = static fn (Table $t, string $option): array => Options::numbers($t, $options->required($option));
        if (null !== $options->text('event') && null !== $options->text('chance')) {
            $own = [$of($then, 'event'), $of($then, 'chance'), $of($now, 'event'), $of($now, 'chance')];
            $out += [
                'auc' => Periods::auc(...$own),
                'events' => Periods::events($own[0], $own[2]),
                'calibration_in_the_large' => [
                    'training' => InTheLarge::of($own[0], $own[1])->toArray(),
                    'newer' => InTheLarge::of($own[2], $own[3])->toArray(),
                ],
            ];
        }
        if (null !== $options->text('number') && null !== $options->text('predicted')) {
            $out['rmse'] = Periods::rmse($of($then, 'number'), $of($then, 'predicted'), $of($now, 'number'), $of($now, 'predicted'));
        }

        return $out;
    }
}
