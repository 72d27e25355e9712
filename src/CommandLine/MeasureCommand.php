<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Measure\BinaryReport;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\McNemar;
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
            ->addOption('weight', null, InputOption::VALUE_REQUIRED, 'Column of weights')
            ->addOption('cutoffs', null, InputOption::VALUE_REQUIRED, 'Comma-separated', '0.1,0.25,0.3,0.5,0.7,0.9')
            ->addOption('weighted-cutoffs', null, InputOption::VALUE_REQUIRED, 'Comma-separated', '0.25,0.5,0.75')
            ->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', []);
    }

    protected function compute(Options $options): array
    {
        $table = $options->table('file');
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
            $report['weighted_'.$scores[0]] = BinaryReport::weighted($truth, $first, Options::numbers($table, $weight), array_map(floatval(...), $options->list('weighted-cutoffs')));
        }

        return $report;
    }
}
