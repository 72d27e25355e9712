<?php

declare(strict_types=1);

namespace App\Job;

use Symfony\Component\Messenger\Envelope;
use Symfony\Component\Messenger\Transport\Receiver\KeepaliveReceiverInterface;
use Symfony\Component\Messenger\Transport\TransportInterface;

/** Symfony Messenger's view of one lane of the piece queue. Pieces are put in with their job, so there is nothing to send. */
final readonly class PieceTransport implements TransportInterface, KeepaliveReceiverInterface
{
    private string $worker;

    public function __construct(private PieceQueue $queue, private string $lane)
    {
        $this->worker = self::worker((int) getmypid());
    }

    /** What a process of this machine is called in the queue. */
    public static function worker(int $pid): string
    {
        return Machine::name().':'.$pid;
    }

    public function get(): iterable
    {
        $piece = $this->queue->claim($this->lane, $this->worker);

        return null === $piece ? [] : [new Envelope(new RunPiece($piece))];
    }

    /** Called every few seconds while a piece is worked on, wherever its work happens to be. */
    public function keepalive(Envelope $envelope, ?int $seconds = null): void
    {
        $message = $envelope->getMessage();
        if ($message instanceof RunPiece) {
            try {
                $this->queue->beat($message->piece, $this->worker);
            } catch (\Throwable) {
                // It may come in the middle of what the work itself asks of the store: the next one follows.
            }
        }
    }

    public function ack(Envelope $envelope): void
    {
    }

    public function reject(Envelope $envelope): void
    {
    }

    public function send(Envelope $envelope): Envelope
    {
        return $envelope;
    }
}
