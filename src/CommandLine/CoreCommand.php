<?php

declare(strict_types=1);

namespace App\CommandLine;

use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** A command of the core's path: JSON with --json, an error is one line and a non-zero end. */
abstract class CoreCommand extends Command
{
    protected function configure(): void
    {
        $this->addOption('json', null, InputOption::VALUE_NONE, 'Print JSON');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        // A million rows of twenty columns fit; DOKIMOS_MEMORY allows less or more.
        ini_set('memory_limit', (string) (getenv('DOKIMOS_MEMORY') ?: '8G'));
        try {
            $result = $this->compute(new Options($input));
        } catch (\RuntimeException|\LogicException $e) {
            ($output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output)->writeln(
                str_replace("\n", ' ', $e->getMessage()),
                OutputInterface::OUTPUT_RAW,
            );

            return 1;
        }
        $flags = \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES;
        if (true === $input->getOption('json')) {
            $output->writeln(json_encode($result, $flags), OutputInterface::OUTPUT_RAW);
        } else {
            foreach ($result as $name => $value) {
                if ([] === $value) {
                    $value = 'none';
                }
                $output->writeln(
                    \sprintf('%-24s %s', $name, \is_scalar($value) ? (string) $value : json_encode($value, $flags)),
                    OutputInterface::OUTPUT_RAW,
                );
            }
        }

        return 0;
    }

    /** @return array<string, mixed> */
    abstract protected function compute(Options $options): array;
}
