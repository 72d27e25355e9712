<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Act\Campaign;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Measure\BinaryReport;
use Dokimos\Core\Measure\ClassFigures;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\McNemar;
use Dokimos\Core\Measure\NumberFigures;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Validate\FoldComparison;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** Every binary figure of scores against the truth. */
#[AsCommand('dokimos:measure', 'Measure scores against known outcomes')]
final class MeasureCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('file', InputArgument::REQUIRED)
            ->addOption('truth', null, InputOption::VALUE_REQUIRED, 'Column of outcomes, 1 = the event')
            ->addOption('score', null, InputOption::VALUE_REQUIRED, 'One or two columns of scores, comma-separated')
            ->addOption('predicted', null, InputOption::VALUE_REQUIRED, 'Column of predicted numbers, instead of scores')
            ->addOption(
                'shares',
                null,
                InputOption::VALUE_REQUIRED,
                'Columns of chances of several classes begin with this; the class follows',
            )
            ->addOption(
                'folds',
                null,
                InputOption::VALUE_REQUIRED,
                'Two columns of figures of two models on the same folds, with n_train and n_test beside them',
            )
            ->addOption(
                'campaign',
                null,
                InputOption::VALUE_REQUIRED,
                'JSON file with contact_cost, response_rate, retained_share, offer_cost and cost_matrix; --value names the column of values',
            )
            ->addOption('value', null, InputOption::VALUE_REQUIRED, 'Column of what each record is worth')
            ->addOption('weight', null, InputOption::VALUE_REQUIRED, 'Column of weights')
            ->addOption('cutoffs', null, InputOption::VALUE_REQUIRED, 'Comma-separated', '0.1,0.25,0.3,0.5,0.7,0.9')
            ->addOption('weighted-cutoffs', null, InputOption::VALUE_REQUIRED, 'Comma-separated', '0.25,0.5,0.75')
            ->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', []);
    }

    protected function compute(Options $options): array
    {
        $table = $options->table('file');
        if (null !== $options->text('folds')) {
            [$a, $b] = $options->list('folds') + [null, null];
            $parts = static fn (string $name): float => Options::numbers($table, $name)[0];

            return FoldComparison::of(
                Options::numbers($table, (string) $a),
                Options::numbers($table, (string) $b),
                $parts('n_test') / $parts('n_train'),
            );
        }
        $weights = null === $options->text('weight') ? null : Options::numbers($table, $options->required('weight'));
        if (null !== $options->text('predicted')) {
            return NumberFigures::of(
                Options::numbers($table, $options->required('truth')),
                Options::numbers($table, $options->required('predicted')),
                $weights,
            );
        }
        if (null !== $options->text('shares')) {
            return self::several($table, $options);
        }
        if (null !== $options->text('campaign')) {
            return self::campaign($table, $options);
        }
        $truth = Options::numbers($table, $options->required('truth'));
        $scores = $options->list('score');
        if ([] === $scores || \count($scores) > 2) {
            throw new \InvalidArgumentException('--score takes one or two columns.');
        }
        $cutoffs = array_map(floatval(...), $options->list('cutoffs'));
        $first = Options::numbers($table, $scores[0]);
        $report = ['n' => $table->rows, 'positives' => (int) array_sum($truth), $scores[0] => BinaryReport::of($truth, $first, $cutoffs)];
        if (isset($scores[1])) {
            $second = Options::numbers($table, $scores[1]);
            $report[$scores[1]] = BinaryReport::of($truth, $second, $cutoffs);
            $report['delong_test'] = DeLong::test(DeLong::of($truth, $first), DeLong::of($truth, $second));
            $report['mcnemar'] = McNemar::test($truth, $first, $second, 0.5);
        }
        if (null !== $weight = $options->text('weight')) {
            $report['weighted_'.$scores[0]] = BinaryReport::weighted(
                $truth,
                $first,
                Options::numbers($table, $weight),
                array_map(floatval(...), $options->list('weighted-cutoffs')),
            );
        }

        return $report;
    }

    /** @return array<string, mixed> */
    private static function several(Table $table, Options $options): array
    {
        $prefix = $options->required('shares');
        $classes = [];
        foreach ($table->names() as $name) {
            if (str_starts_with($name, $prefix)) {
                $classes[] = substr($name, \strlen($prefix));
            }
        }
        sort($classes, \SORT_STRING);
        $actual = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $place = array_search($table->column($options->required('truth'))->text($row), $classes, true);
            $actual[] = \is_int($place) ? $place : throw new \InvalidArgumentException(\sprintf(
                'Line %d has a class without a column of chances.',
                $row + 2,
            ));
        }

        return ClassFigures::of(
            $classes,
            $actual,
            array_map(static fn (string $c): array => Options::numbers($table, $prefix.$c), $classes),
        );
    }

    /** @return array<string, mixed> */
    private static function campaign(Table $table, Options $options): array
    {
        $p = json_decode((string) @file_get_contents($options->required('campaign')), true);
        // A file of expected figures has them under "parameters".
        $p = \is_array($p) && \is_array($p['parameters'] ?? null) ? $p['parameters'] : $p;
        $number = static fn (mixed $list, string $name): float => \is_array($list) && is_numeric($list[$name] ?? null) ? (float) $list[$name] : throw new \InvalidArgumentException(\sprintf(
            'The campaign needs a number "%s".',
            $name,
        ));
        $matrix = \is_array($p) ? $p['cost_matrix'] ?? null : null;
        $campaign = new Campaign(
            new Economics(
                $number($p, 'contact_cost'),
                $number($p, 'response_rate'),
                $number($p, 'retained_share'),
                $number($p, 'offer_cost'),
            ),
            [
                'tp' => $number($matrix, 'tp'),
                'fp' => $number($matrix, 'fp'),
                'fn' => $number($matrix, 'fn'),
                'tn' => $number($matrix, 'tn'),
            ],
        );

        return ['parameters' => $p] + $campaign->report(
            Options::numbers($table, $options->required('score')),
            Options::numbers($table, $options->required('truth')),
            Options::numbers($table, $options->required('value')),
        );
    }
}
