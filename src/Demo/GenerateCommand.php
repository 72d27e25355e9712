<?php

declare(strict_types=1);

namespace App\Demo;

use Dokimos\Core\Measure\BinaryScores;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Writes the demo's CSV files. */
#[AsCommand('dokimos:demo:generate', 'Write the tables of the demo scenario')]
final class GenerateCommand extends Command
{
    protected function configure(): void
    {
        $this->addOption('rows', null, InputOption::VALUE_REQUIRED, 'How many past visits', '6000')
            ->addOption('seed', null, InputOption::VALUE_REQUIRED, 'The same seed gives the same bytes', '2026')
            ->addOption('dir', null, InputOption::VALUE_REQUIRED, 'Where to write', 'var/demo')
            ->addOption('only', null, InputOption::VALUE_REQUIRED, 'One table alone: visits, bookings, visits_recent or households')
            ->addOption('without', null, InputOption::VALUE_REQUIRED, 'Blemishes to leave out, comma-separated: '.implode(', ', Blemishes::ALL))
            ->addOption('truth', null, InputOption::VALUE_NONE, 'Print the best reachable AUC, computed from the true chances');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $text = static fn (string $name): string => \is_string($input->getOption($name)) ? $input->getOption($name) : '';
        $rows = max(1, (int) $text('rows'));
        $seed = (int) $text('seed');
        $blemishes = new Blemishes(array_values(array_filter(explode(',', $text('without')))));
        if (true === $input->getOption('truth')) {
            $chances = $outcomes = [];
            foreach (VisitGenerator::forPart($seed, 'visits', $blemishes)->truth($rows) as [$chance, $outcome]) {
                $chances[] = $chance;
                $outcomes[] = (float) $outcome;
            }
            $output->writeln(\sprintf('%d visits, %.2f%% return; AUC of the true chances %.4f', $rows, 100 * array_sum($outcomes) / $rows, (new BinaryScores($outcomes, $chances))->auc()));

            return 0;
        }
        $dir = $text('dir');
        if (!is_dir($dir) && !mkdir($dir, 0775, true)) {
            $output->writeln(\sprintf('<error>The folder %s cannot be made.</error>', $dir));

            return 1;
        }
        foreach (self::tables($seed, $rows, $blemishes) as $name => $lines) {
            if ('' !== $text('only') && $name !== $text('only')) {
                continue;
            }
            $start = microtime(true);
            $count = self::write($dir.'/'.$name.'.csv', $lines);
            $output->writeln(\sprintf('%s.csv: %s records, %.1f s', $name, number_format($count), microtime(true) - $start));
        }

        return 0;
    }

    /** @return array<string, \Generator<int, string>> */
    public static function tables(int $seed, int $rows, Blemishes $blemishes): array
    {
        return [
            'visits' => VisitGenerator::forPart($seed, 'visits', $blemishes)->visits($rows),
            'bookings' => VisitGenerator::forPart($seed, 'bookings', $blemishes)->bookings(400),
            'visits_recent' => VisitGenerator::forPart($seed, 'recent', $blemishes)->visits(900, '2026-03-01', 31, 1.0),
            'households' => VisitGenerator::forPart($seed, 'households', $blemishes)->households(4112),
        ];
    }

    /** @param iterable<string> $lines */
    public static function write(string $file, iterable $lines): int
    {
        $handle = fopen($file, 'w') ?: throw new \RuntimeException(\sprintf('%s cannot be written.', $file));
        $buffer = '';
        $count = -1;
        foreach ($lines as $line) {
            $buffer .= $line;
            ++$count;
            if (\strlen($buffer) > 1 << 19) {
                fwrite($handle, $buffer);
                $buffer = '';
            }
        }
        fwrite($handle, $buffer);
        fclose($handle);

        return $count;
    }
}
