<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Http\Problem;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Refusal;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Writes the dossier of a study. */
#[AsCommand('dokimos:dossier', 'Write the dossier of a study as PDF or HTML')]
final class DossierCommand extends Command
{
    public function __construct(private readonly EntityManagerInterface $entities, private readonly Dossiers $dossiers)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('study', InputArgument::REQUIRED, 'Number of the study')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Where to write it; its ending says PDF or HTML')
            ->addOption('short', null, InputOption::VALUE_NONE, 'The short form, of one page');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $out = \is_string($input->getOption('out')) ? $input->getOption('out') : '';
        $number = $input->getArgument('study');
        $study = $this->entities->find(Study::class, is_numeric($number) ? (int) $number : 0);
        if (null === $study) {
            $output->writeln('There is no such study.');

            return 1;
        }
        try {
            [$bytes] = $this->dossiers->file($study, strtolower(pathinfo($out, \PATHINFO_EXTENSION)), true === $input->getOption('short'));
        } catch (Problem|Refusal $e) {
            $output->writeln($e->getMessage());

            return 1;
        }
        if (false === @file_put_contents($out, $bytes)) {
            $output->writeln(\sprintf('%s cannot be written.', $out));

            return 1;
        }
        $output->writeln(\sprintf('%s: %s bytes, SHA-256 %s.', $out, number_format(\strlen($bytes)), hash('sha256', $bytes)));

        return 0;
    }
}
