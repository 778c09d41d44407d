"""What Delivery does, apart from its pages: order packages, make them, hand them out."""
