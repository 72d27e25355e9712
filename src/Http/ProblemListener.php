<?php

declare(strict_types=1);

namespace App\Http;

use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Dokimos\Core\Refusal;
use Psr\Log\LoggerInterface;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Event\ExceptionEvent;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Symfony\Component\Security\Core\Exception\AccessDeniedException;
use Symfony\Component\Security\Core\Exception\AuthenticationException;
use Symfony\Component\Validator\ConstraintViolationInterface;
use Symfony\Component\Validator\Exception\ValidationFailedException;

/** Turns every exception of the API into a problem document; nobody sees a stack trace. */
final readonly class ProblemListener
{
    public function __construct(private LoggerInterface $logger)
    {
    }

    #[AsEventListener(priority: -10)]
    public function __invoke(ExceptionEvent $event): void
    {
        $e = $event->getThrowable();
        if (!str_starts_with($event->getRequest()->getPathInfo(), '/api')) {
            $status = $e instanceof HttpExceptionInterface ? $e->getStatusCode() : 500;
            $event->setResponse(new Response(\sprintf('<!doctype html><html lang="en"><title>Dokimos</title><p>%s <a href="/">To the studies</a></p></html>', $status < 500 ? 'There is nothing at this address.' : 'Something went wrong that should not have. Nothing was changed.'), $status));

            return;
        }
        if (!$e instanceof HttpExceptionInterface && !$e instanceof AccessDeniedException && !$e instanceof AuthenticationException) {
            // Who asked may not have been found out, because the database did not answer: that is no reason to forget it.
            $event->getRequest()->attributes->remove('_security_firewall_run');
        }
        if ($e instanceof AccessDeniedException || $e instanceof AuthenticationException) {
            return;
        }
        $previous = $e->getPrevious();
        if ($previous instanceof ValidationFailedException) {
            $violation = $previous->getViolations()->get(0);
            $event->setResponse(Problem::response(422, self::said($violation), $violation->getPropertyPath()));

            return;
        }
        $event->setResponse(match (true) {
            $e instanceof Problem => Problem::response($e->getStatusCode(), $e->getMessage(), $e->field, $e->more),
            $e instanceof UniqueConstraintViolationException => Problem::response(409, 'The same was done at the same moment, here or by somebody else. Look again; nothing was done twice.'),
            FullDisk::isBehind($e) => Problem::response(507, FullDisk::SAYS),
            $e instanceof Refusal => Problem::response(422, $e->getMessage()),
            $e instanceof HttpExceptionInterface && $e->getStatusCode() < 500 => Problem::response($e->getStatusCode(), match ($e->getStatusCode()) {
                404 => 'There is nothing at this address.',
                405 => 'This address does not take such a request.',
                413 => 'That is too much in one request; send it in pieces.',
                default => 'The request could not be read.',
            }),
            default => $this->unexpected($e),
        });
    }

    /** What is wrong with a request, in words: types are said as what a reader would send. */
    private static function said(ConstraintViolationInterface $violation): string
    {
        $types = $violation->getParameters()['{{ type }}'] ?? null;
        if (!\is_string($types) || !str_starts_with((string) $violation->getMessage(), 'This value')) {
            return (string) $violation->getMessage();
        }
        $words = array_map(static fn (string $type): string => match (true) {
            'int' === $type => 'a whole number',
            'float' === $type => 'a number',
            'string' === $type => 'text',
            'bool' === $type => 'true or false',
            'array' === $type, str_ends_with($type, '[]') => 'a list',
            'unknown' === $type => 'given',
            default => 'an object',
        }, array_diff(explode('|', $types), ['null']));
        $of = $violation->getPropertyPath();

        return \sprintf('%s should be %s.', '' === $of ? 'What was sent' : '"'.$of.'"', implode(' or ', array_unique($words)));
    }

    private function unexpected(\Throwable $e): JsonResponse
    {
        $number = strtoupper(bin2hex(random_bytes(3)));
        $this->logger->error('Unexpected error {number}: {message}', ['number' => $number, 'message' => $e->getMessage(), 'exception' => $e]);

        return Problem::response(500, \sprintf('Something went wrong that should not have. Nothing was changed. The log has it under %s.', $number));
    }
}
