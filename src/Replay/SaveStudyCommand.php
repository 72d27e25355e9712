<?php

declare(strict_types=1);

namespace App\Replay;

use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Writes a study as one file. */
#[AsCommand('dokimos:study:save', 'Write a study as one JSON file, to be done again elsewhere')]
final class SaveStudyCommand extends Command
{
    public function __construct(private readonly EntityManagerInterface $entities, private readonly StudyFile $file)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('study', InputArgument::REQUIRED, 'Number of the study')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Where to write it; on the screen when left out');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $number = $input->getArgument('study');
        $study = $this->entities->find(Study::class, is_numeric($number) ? (int) $number : 0);
        if (null === $study) {
            $output->writeln('There is no such study.');

            return 1;
        }
        $json = StudyFile::json($this->file->of($study))."\n";
        $out = $input->getOption('out');
        if (!\is_string($out)) {
            $output->write($json);

            return 0;
        }
        if (false === @file_put_contents($out, $json)) {
            $output->writeln(\sprintf('%s cannot be written.', $out));

            return 1;
        }
        $output->writeln(\sprintf('%s: %s, %d trials.', $out, $study->name(), substr_count($json, '"prints"')));

        return 0;
    }
}
