<?php

declare(strict_types=1);

namespace App\Operation;

use App\Account\Audit;
use App\Account\SecondFactor;
use App\Account\User;
use App\Source\Connections;
use App\Source\DatabaseConnection;
use App\Storage\Sealing;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Gives the installation another secret, and seals anew what was sealed by the one before. */
#[AsCommand('dokimos:secret:rotate', 'Draw another secret and seal stored passwords anew')]
final class RotateSecretCommand extends Command
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Sealing $sealing,
        private readonly Audit $audit,
        private readonly string $dataDirectory,
        #[\SensitiveParameter] private readonly string $secret,
    ) {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $file = $this->dataDirectory.'/app.secret';
        if ([] !== WorkerPulse::here($this->dataDirectory)) {
            $output->writeln('Workers are running. Stop Dokimos first, on every machine.');

            return 1;
        }
        if (trim((string) @file_get_contents($file)) !== $this->secret) {
            $output->writeln('The secret comes from APP_SECRET, not from the data folder: take it out of the environment first.');

            return 1;
        }
        $secret = bin2hex(random_bytes(32));
        // Should the machine stop between the store and the file, the new secret is there.
        if (false === @file_put_contents($file.'.next', $secret) || !chmod($file.'.next', 0600)) {
            $output->writeln('The data folder cannot be written. Nothing was changed.');

            return 1;
        }
        [$sealed, $lost] = $this->entities->getConnection()->transactional(fn (): array => $this->again(new Sealing($secret)));
        copy($file, $file.'.before');
        chmod($file.'.before', 0600);
        rename($file.'.next', $file);
        $output->writeln(
            \sprintf(
                'Another secret is in place; %d sealed values were sealed anew, %d could not be opened and stay as they were.',
                $sealed,
                $lost,
            ),
        );
        $output->writeln(
            'Whoever chose to stay signed in signs in once more. The secret before is app.secret.before: keep it with older backups.',
        );
        $output->writeln('On several machines: put the same app.secret on each of them before Dokimos starts again.');

        return 0;
    }

    /** @return array{int, int} sealed anew, and not to be opened */
    private function again(Sealing $by): array
    {
        $sealed = $lost = 0;
        foreach ($this->entities->getRepository(DatabaseConnection::class)->findAll() as $connection) {
            $plain = $this->sealing->open($connection->sealed(), Connections::PURPOSE);
            null === $plain ? ++$lost : $connection->sealAnew($by->seal($plain, Connections::PURPOSE));
            $sealed += null === $plain ? 0 : 1;
        }
        foreach ($this->entities->getRepository(User::class)->findAll() as $user) {
            $kept = $user->secondFactor();
            if (null === $kept) {
                continue;
            }
            $plain = $this->sealing->open($kept['secret'], SecondFactor::PURPOSE);
            null === $plain ? ++$lost : $user->keepSecondFactor(['secret' => $by->seal($plain, SecondFactor::PURPOSE)] + $kept);
            $sealed += null === $plain ? 0 : 1;
        }
        $this->audit->note('command line', 'drew another secret');
        $this->entities->flush();

        return [$sealed, $lost];
    }
}
